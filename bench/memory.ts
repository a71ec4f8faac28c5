import { readFileSync } from "node:fs";
import type { RunningServer } from "../e2e/startServer";

/** What a server holds in memory now, MB. */
export const memoryMb = ({ process }: RunningServer): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${process.pid}/status`, "utf8"))![1]) / 1024;

/** Looks at a server's memory often until it is ended; gives the most that it held, MB. */
export function watchMemory(server: RunningServer): { end: () => number } {
  let most = memoryMb(server);
  const timer = setInterval(() => (most = Math.max(most, memoryMb(server))), 50);
  return {
    end: () => {
      clearInterval(timer);
      return most;
    },
  };
}
