import { spawnSync } from "node:child_process";
import { expect, test } from "@jest/globals";

const run = (work: string) =>
  spawnSync(
    process.execPath,
    ["node_modules/tsx/dist/cli.mjs", "--eval", `import { watchOverItself } from "./server/watchdog.ts"; ${work}`],
    { encoding: "utf8", timeout: 60_000 },
  );

test("a process that stops answering itself is ended with a word; one that answers lives", () => {
  const hung = run("watchOverItself(undefined, 800); setTimeout(() => { for (;;); }, 300);");
  expect(hung.stderr).toContain("Tejado has not answered itself for 1 s and ends here.");
  expect(hung.status).not.toBe(0);
  const deaf = run("watchOverItself(() => new Promise(() => {}), 800); setTimeout(() => process.exit(0), 5000);");
  expect(deaf.stderr).toContain("Tejado has not answered itself for 1 s and ends here.");
  const alive = run(
    "watchOverItself(() => Promise.reject(new Error('restoring')), 800); setTimeout(() => { console.log('still here'); process.exit(0); }, 2500);",
  );
  expect([alive.status, alive.stdout.trim(), alive.stderr.trim()]).toEqual([0, "still here", ""]);
}, 90_000);
