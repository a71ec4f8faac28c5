// What every command needs first: packages as new as the lock file, and a build as new as the sources.
import { spawnSync } from "node:child_process";
import { existsSync, readdirSync, statSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
process.chdir(ROOT);

/** Runs a command in the foreground; gives whether it went well. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { stdio: "inherit", cwd: ROOT, ...options });
  return status === 0;
}

const modified = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0);

/** Installs the packages when they are missing or older than package-lock.json. */
export function ensureInstalled() {
  const installed = modified(join(ROOT, "node_modules", ".package-lock.json"));
  if (installed > 0 && installed >= modified(join(ROOT, "package-lock.json"))) return;
  console.log("Installing packages…");
  if (!run("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"])) {
    console.error("npm ci failed; see its message above.");
    process.exit(1);
  }
}

function newestIn(path) {
  const stats = statSync(path);
  if (!stats.isDirectory()) return stats.mtimeMs;
  return Math.max(0, ...readdirSync(path).map((name) => newestIn(join(path, name))));
}

const BUILT_FROM = [
  "accounts",
  "app",
  "core",
  "demo",
  "engine",
  "field",
  "formats",
  "ground",
  "jobs",
  "monitoring",
  "pool",
  "server",
  "simulators",
  "staging",
  "store",
  "threads",
  "wire",
  "public",
  "package-lock.json",
  "react-router.config.ts",
  "vite.config.ts",
  "vite.field.config.ts",
  "vite.workers.config.ts",
];
export const SERVER_BUILD = join(ROOT, "build", "server", "index.js");

/** Builds the app when there is no build or a source is newer. */
export function ensureBuilt() {
  const newest = Math.max(
    ...BUILT_FROM.filter((name) => existsSync(join(ROOT, name))).map((name) => newestIn(join(ROOT, name))),
  );
  if (modified(SERVER_BUILD) > newest) return;
  console.log("Building…");
  // What the tools say of themselves is of no use to a newcomer; what went wrong is.
  const { status, stdout, stderr } = spawnSync("npm", ["run", "--silent", "build"], { cwd: ROOT, encoding: "utf8" });
  if (status !== 0) {
    console.error(`${stdout}${stderr}\nThe build failed; see its message above.`);
    process.exit(1);
  }
}
