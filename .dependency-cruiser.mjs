/** Imports run one way: app → jobs → engine → store, formats → core; demo → store, formats, core. Outside a folder only its index.ts is imported. */
const above = {
  core: "formats|store|engine|jobs|app|demo|server",
  formats: "store|engine|jobs|app|demo|server",
  store: "formats|engine|jobs|app|demo|server",
  engine: "formats|jobs|app|demo|server",
};
const forbidden = [
  ...Object.entries(above).map(([folder, others]) => ({
    name: `${folder}-knows-nothing-above`,
    severity: "error",
    from: { path: `^${folder}/`, pathNot: "\\.test\\.ts$" },
    to: { path: `^(${others})/` },
  })),
  { name: "jobs-below-app", severity: "error", from: { path: "^jobs/" }, to: { path: "^(app|demo|server)/" } },
  { name: "demo-below-app", severity: "error", from: { path: "^demo/" }, to: { path: "^(app|engine|jobs|server)/" } },
  { name: "app-below-server", severity: "error", from: { path: "^app/" }, to: { path: "^server/" } },
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
    from: { path: "^(store|engine|jobs|demo|app|server|bench|e2e)/" },
    to: { path: "^(?:core/[^/]+|formats/[^/]+|store|engine|jobs|demo)/", pathNot: ["/index\\.ts$", "^$1/"] },
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
