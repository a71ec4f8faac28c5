// npm run licences: holds every package of the installed tree against the licences that Tejado may be built and shipped with, and the notices
// against what is shipped. `npm run licences -- --write` writes the notices anew.
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import satisfies from "spdx-satisfies";

/** What is shipped: permissive, by SPDX; fonts under their own open licence. */
const SHIPPED = [
  ...[
    "MIT",
    "MIT-0",
    "ISC",
    "0BSD",
    "BSD-2-Clause",
    "BSD-3-Clause",
    "Apache-2.0",
    "BlueOak-1.0.0",
    "CC0-1.0",
    "Unlicense",
    "Zlib",
  ],
  "OFL-1.1",
];
/** Tools of tests and builds, of which nothing is shipped, may be under these as well. */
const TOOLS = [...SHIPPED, "MPL-2.0", "CC-BY-3.0", "CC-BY-4.0"];
/** Packages whose manifest says nothing, by the licence that lies in them. */
const SAID_IN_A_FILE = { "png-js": ["MIT", "LICENSE"] };
const NOTICES = "THIRD-PARTY-NOTICES.md";

const { packages } = JSON.parse(readFileSync("package-lock.json", "utf8"));
const installed = Object.entries(packages)
  .filter(([path]) => path !== "" && existsSync(`${path}/package.json`))
  .map(([path, { dev, devOptional }]) => {
    const { name, version, license, licenses } = JSON.parse(readFileSync(`${path}/package.json`, "utf8"));
    return {
      path,
      name,
      version,
      isTool: Boolean(dev || devOptional),
      licence: licenceOf(path, name, license, licenses),
    };
  });

/** A package's licence as SPDX, from its manifest or the file that lies in it; empty where neither tells. */
function licenceOf(path, name, license, licenses) {
  if (typeof license === "string") return license;
  if (license?.type) return license.type;
  if (Array.isArray(licenses)) return licenses.map(({ type }) => type).join(" OR ");
  const [spdx, file] = SAID_IN_A_FILE[name] ?? [];
  return spdx && existsSync(`${path}/${file}`) && readFileSync(`${path}/${file}`, "utf8").includes(spdx) ? spdx : "";
}

function isAllowed(licence, allowed) {
  try {
    return satisfies(licence, allowed);
  } catch {
    return false;
  }
}

/** The licence's own text, where the package brings it. */
function textOf(path) {
  const file = readdirSync(path).find((name) => /^(licen[cs]e|copying|notice)/i.test(name));
  return file ? readFileSync(`${path}/${file}`, "utf8").replace(/\r\n/g, "\n").trim() : "";
}

/** Everything shipped with its licence, equal texts told once. */
function notices() {
  const byText = new Map();
  const shipped = installed.filter(({ isTool, path }) => !isTool && !packages[path].optional);
  for (const { path, name, version, licence } of shipped) {
    const text = textOf(path);
    const own = byText.get(text) ?? [];
    byText.set(text, [...own, `${name} ${version} (${licence})`]);
  }
  const parts = [...byText].sort(([, [x]], [, [y]]) => (x < y ? -1 : 1));
  return [
    "# Third-party notices",
    "Tejado is shipped with these packages, each under its own licence. Written by `npm run licences -- --write`.",
    ...parts.map(
      ([text, names]) =>
        `## ${[...new Set(names)].sort().join(", ")}\n\n${text ? `\`\`\`\`text\n${text}\n\`\`\`\`` : "The package brings no text of its licence."}`,
    ),
    "",
  ].join("\n\n");
}

if (process.argv.includes("--write")) writeFileSync(NOTICES, notices());
const refused = installed.filter(({ licence, isTool }) => !isAllowed(licence, isTool ? TOOLS : SHIPPED));
for (const { name, version, licence } of refused)
  console.error(`${name} ${version} is under ${licence || "no licence that it tells"}, which Tejado is not built with`);
const named = existsSync(NOTICES) ? readFileSync(NOTICES, "utf8") : "";
const missing = installed.filter(
  ({ path, name, version, isTool }) => !isTool && !packages[path].optional && !named.includes(`${name} ${version} (`),
);
for (const { name, version } of missing)
  console.error(`${NOTICES} does not name ${name} ${version}: write it anew with npm run licences -- --write`);
console.log(`${installed.length} packages held against ${SHIPPED.length} licences`);
process.exit(refused.length + missing.length === 0 ? 0 : 1);
