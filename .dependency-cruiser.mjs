/**
 * Imports run one way, from each line to those before it: core; formats, wire, ground, threads; store; engine, demo, accounts; pool,
 * simulators, staging; monitoring; jobs; app; field; server. Folders of one line know nothing of each other. Outside a folder only its index.ts is imported.
 */
const LINES = [
  ["core"],
  ["formats", "wire", "ground", "threads"],
  ["store"],
  ["engine", "demo", "accounts"],
  ["pool", "simulators", "staging"],
  ["monitoring"],
  ["jobs"],
  ["app"],
  ["field"],
  ["server"],
];
const forbidden = [
  ...LINES.slice(0, -1).flatMap((folders, line) =>
    folders.map((folder) => ({
      name: `${folder}-knows-nothing-above`,
      severity: "error",
      from: { path: `^${folder}/`, pathNot: "\\.test\\.ts$" },
      to: {
        path: `^(${[...folders.filter((other) => other !== folder), ...LINES.slice(line + 1).flat()].join("|")})/`,
      },
    })),
  ),
  {
    name: "core-is-pure",
    severity: "error",
    from: { path: "^core/", pathNot: "\\.test\\.ts$" },
    to: { dependencyTypes: ["core"] },
  },
  {
    name: "core-has-no-interface-packages",
    severity: "error",
    from: { path: "^core/" },
    to: { path: "node_modules/(react|react-dom|react-router|ol|@electric-sql|express|apexcharts)/" },
  },
  {
    name: "only-the-public-face",
    severity: "error",
    comment: "A folder's index.ts is its public face.",
    from: { path: "^(core|formats)/([^/]+)/" },
    to: { path: "^(core|formats)/[^/]+/", pathNot: ["/index\\.ts$", "^$1/$2/"] },
  },
  {
    name: "only-the-public-face-from-outside",
    severity: "error",
    from: {
      path: "^(wire|ground|threads|store|accounts|engine|pool|monitoring|jobs|simulators|staging|demo|app|server|bench|e2e)/",
    },
    to: {
      path: "^(?:core/[^/]+|formats/[^/]+|wire|ground|threads|store|accounts|engine|pool|monitoring|jobs|simulators|staging|demo)/",
      pathNot: ["/index\\.ts$", "^$1/"],
    },
  },
  {
    name: "nobody-imports-routes",
    severity: "error",
    from: { pathNot: "^(app/routes(/|\\.ts$)|e2e/)" },
    to: { path: "^app/routes/" },
  },
  { name: "no-circles", severity: "error", from: {}, to: { circular: true } },
];
export default {
  forbidden,
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "^(build|\\.react-router)" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "require", "node", "default"],
      extensions: [".ts", ".tsx", ".mjs", ".js"],
    },
  },
};
