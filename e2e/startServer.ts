import { spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

export interface RunningServer {
  origin: string;
  landing: string;
  process: ChildProcess;
  directory: string;
}

/** Starts Tejado as its users do, on a free port and a data directory of its own. */
export async function startServer(
  flags: string[],
  directory = mkdtempSync(join(tmpdir(), "tejado-e2e-")),
): Promise<RunningServer> {
  const child = spawn(process.execPath, ["scripts/start.mjs", "--port", "0", ...flags], {
    cwd: ROOT,
    env: { ...process.env, TEJADO_DATA: directory },
    stdio: ["ignore", "pipe", "inherit"],
  });
  const url = await new Promise<string>((resolve, reject) => {
    createInterface({ input: child.stdout! }).on("line", (line) => {
      const found = /Tejado is at (\S+)/.exec(line);
      if (found) resolve(found[1]!);
    });
    child.once("exit", (code) => reject(new Error(`the server ended with ${code} before it served`)));
  });
  return { origin: new URL(url).origin, landing: url, process: child, directory };
}

export async function stopServer(server: RunningServer): Promise<number | null> {
  const ended = new Promise<number | null>((resolve) => server.process.once("exit", (code) => resolve(code)));
  server.process.kill("SIGTERM");
  return ended;
}
