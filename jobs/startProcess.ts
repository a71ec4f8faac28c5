import { fork, type ChildProcess } from "node:child_process";
import { join } from "node:path";
import { pathToFileURL } from "node:url";

/**
 * Starts one of the scripts in jobs/workers in a process of its own: what a damaged file does to the packages that unpack it,
 * endless loops and aborts among them, ends that process and nothing else. The script gets `given` as its first message.
 */
export function startProcess(script: string, given: object, heapMB: number): ChildProcess {
  const folder = join(process.cwd(), "jobs", "workers");
  const child = fork(join(folder, "bootProcess.mjs"), [pathToFileURL(join(folder, script)).href], {
    serialization: "advanced",
    execArgv: [`--max-old-space-size=${heapMB}`],
    stdio: ["ignore", "ignore", "ignore", "ipc"],
  });
  child.send(given);
  return child;
}
