// Small changes of the code that some test ought to notice: npm run mutants -- core/link/budget.ts core/install/proof.ts
// Only the tests of a file's own folder count, without those that try properties by the hundred. Five to ten seconds a mutant, so it runs beside other work.
import { existsSync } from "node:fs";
import { availableParallelism } from "node:os";
import { dirname } from "node:path";
import { ensureInstalled, ROOT } from "./prepare.mjs";

/** Share of a file's mutants that is to die. */
const WANTED_SHARE = 0.8;
const NOTICED = ["Killed", "Timeout"];
const MISSED = ["Survived", "NoCoverage"];

const files = process.argv.slice(2);
// A range of lines may follow a file's name: core/link/budget.ts:20-60.
const missing = files.filter((file) => !existsSync(file.replace(/:[\d-]+$/, "")));
if (files.length === 0 || missing.length > 0) {
  console.error(missing.length > 0 ? `There is no ${missing.join(", ")}.` : "Name one or more files of core.");
  process.exit(2);
}

ensureInstalled();
const { Stryker } = await import("@stryker-mutator/core");
const { default: jestConfig } = await import("../jest.config.mjs");

async function mutantsOf(file) {
  return new Stryker({
    mutate: [file],
    testRunner: "jest",
    testRunnerNodeArgs: ["--experimental-vm-modules", "--no-warnings"],
    jest: {
      config: { ...jestConfig, testMatch: [`<rootDir>/${dirname(file)}/**/*.test.ts`, "!**/properties.test.ts"] },
      enableFindRelatedTests: true,
    },
    coverageAnalysis: "perTest",
    concurrency: availableParallelism(),
    ignorePatterns: ["/build", "/data", "/docs", "/public", "/test-results", "/app"],
    tempDirName: ".mutants",
    reporters: ["progress"],
    allowConsoleColors: false,
    logLevel: "warn",
  }).runMutationTest();
}

const told = (text) => text.replace(/\s+/g, " ").slice(0, 80);
let isEnough = true;
for (const file of files) {
  const mutants = await mutantsOf(file);
  const survivors = mutants.filter(({ status }) => MISSED.includes(status));
  const noticed = mutants.filter(({ status }) => NOTICED.includes(status)).length;
  const share = noticed / Math.max(1, noticed + survivors.length);
  for (const { location, mutatorName, replacement } of survivors)
    console.log(
      `  ${file}:${location.start.line}:${location.start.column}  ${mutatorName}: ${told(replacement ?? "")}`,
    );
  console.log(`${file}: ${noticed} of ${noticed + survivors.length} mutants noticed, ${(share * 100).toFixed(0)} %`);
  isEnough &&= share >= WANTED_SHARE;
}
process.chdir(ROOT);
process.exit(isEnough ? 0 : 1);
