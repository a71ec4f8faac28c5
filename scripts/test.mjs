// npm test: installs what is missing, then every check in turn. The last line counts tests.
import { spawn, spawnSync } from "node:child_process";
import { once } from "node:events";
import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { text } from "node:stream/consumers";
import { ensureInstalled, run } from "./prepare.mjs";

const CHROMIUM = process.env.TEJADO_CHROMIUM ?? "/usr/bin/chromium";

const has = (command) => spawnSync("which", [command], { stdio: "ignore" }).status === 0;
/** Other programs that write and read the formats we do; without them their tests are skipped. */
const PEERS = [
  ["gdal_translate", "gdal-bin"],
  ["iperf3", "iperf3"],
  ["gpsbabel", "gpsbabel"],
  ["soffice", "libreoffice-calc"],
  ["pg_createcluster", "postgresql"],
];

/** Debian's packages that the tests use, installed where this user may; otherwise the one line that says what to do. */
function ensurePackages() {
  const missing = [
    ...(existsSync(CHROMIUM) ? [] : ["chromium"]),
    ...PEERS.filter(([command]) => !has(command)).map(([, name]) => name),
  ];
  if (missing.length === 0) return;
  if (process.getuid?.() === 0 && existsSync("/usr/bin/apt-get")) {
    console.log(`Installing ${missing.join(", ")}…`);
    const quiet = { stdio: "ignore", env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } };
    run("apt-get", ["update"], quiet);
    // One by one: what one archive lacks must not keep the others away.
    for (const name of missing) run("apt-get", ["install", "-y", "--no-install-recommends", name], quiet);
  }
  const still = [
    ...(existsSync(CHROMIUM) ? [] : ["chromium"]),
    ...PEERS.filter(([command]) => !has(command)).map(([, name]) => name),
  ];
  if (still.length > 0) console.error(`Some tests need Debian's packages: apt-get install ${still.join(" ")}`);
}

ensureInstalled();
ensurePackages();
const reports = mkdtempSync(join(tmpdir(), "tejado-test-"));
let passed = 0;
let failed = 0;
let skipped = 0;

function step(name, command, args, options) {
  console.log(`\n== ${name}`);
  const ok = run(command, args, options);
  if (!ok) console.error(`== ${name} failed`);
  return ok;
}

/** A check without tests of its own counts as one. */
function count(ok) {
  if (ok) passed++;
  else failed++;
}

/** A check that runs beside others: what it says is told in one piece when it has ended. */
async function checkBeside(name, script) {
  const child = spawn("npm", ["run", "--silent", script], { stdio: ["ignore", "pipe", "pipe"] });
  const [[out, complaints], [code]] = await Promise.all([
    Promise.all([text(child.stdout), text(child.stderr)]),
    once(child, "close"),
  ]);
  console.log(`\n== ${name}\n${out}${complaints}`.trimEnd());
  if (code !== 0) console.error(`== ${name} failed`);
  count(code === 0);
}

// Each keeps one core busy.
await Promise.all([
  checkBeside("types", "types"),
  checkBeside("lint", "lint")
    .then(() => checkBeside("dependency rules", "deps"))
    .then(() => checkBeside("licences", "licences")),
]);

count(step("build", "npm", ["run", "--silent", "build"]));

const jestReport = join(reports, "jest.json");
step("unit tests", "npx", ["jest", "--silent", "--json", `--outputFile=${jestReport}`, "--reporters=default"], {
  env: {
    ...process.env,
    NODE_OPTIONS: "--experimental-vm-modules --no-warnings",
    // The threads that tests start are those that were just built, as they ship.
    TEJADO_TEST_THREADS: join(process.cwd(), "build/server/workers"),
  },
});
if (existsSync(jestReport)) {
  const report = JSON.parse(readFileSync(jestReport, "utf8"));
  passed += report.numPassedTests;
  skipped += report.numPendingTests;
  failed += report.numFailedTests + report.numRuntimeErrorTestSuites;
} else failed++;

if (existsSync(CHROMIUM)) {
  const e2eReport = join(reports, "e2e.json");
  step("browser tests", "npx", ["playwright", "test", "-c", "e2e/playwright.config.ts"], {
    env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: e2eReport, TEJADO_CHROMIUM: CHROMIUM },
  });
  if (existsSync(e2eReport)) {
    const { stats } = JSON.parse(readFileSync(e2eReport, "utf8"));
    passed += stats.expected + stats.flaky;
    failed += stats.unexpected;
    if (stats.expected + stats.unexpected === 0) failed++;
  } else failed++;
} else failed++;

rmSync(reports, { recursive: true, force: true });
console.log(`\n${passed} passed, ${failed} failed${skipped > 0 ? `, ${skipped} skipped` : ""}`);
process.exit(failed === 0 ? 0 : 1);
