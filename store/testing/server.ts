import { spawn, spawnSync } from "node:child_process";
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";

const DEBIAN = "/usr/lib/postgresql";

/** Folder of a PostgreSQL server's programs on this machine, or null where none is installed. */
export function serverPrograms(): string | null {
  if (!existsSync(DEBIAN)) return null;
  const versions = readdirSync(DEBIAN).sort((x, y) => Number(y) - Number(x));
  return versions.map((version) => join(DEBIAN, version, "bin")).find((bin) => existsSync(join(bin, "initdb"))) ?? null;
}

export interface TestServer {
  /** Address of a new, empty database. */
  newDatabase(): Promise<string>;
  stop(): Promise<void>;
}

/** A PostgreSQL server of the tests' own, on a socket in the temporary directory. It refuses to run as root, so root lends it another's name. */
export async function startServer(bin: string): Promise<TestServer> {
  const directory = mkdtempSync(join(tmpdir(), "tejado-pg-"));
  const asServer = serverUser();
  if (asServer) chownSync(directory, asServer.uid, asServer.gid);
  const data = join(directory, "data");
  const run = (program: string, ...given: string[]) => {
    const { status, stderr } = spawnSync(join(bin, program), given, { ...asServer, encoding: "utf8", cwd: directory });
    if (status !== 0) throw new Error(`${program}: ${stderr}`);
  };
  run("initdb", "-D", data, "-U", "tejado", "-A", "trust", "-E", "UTF8", "--no-sync");
  const server = spawn(join(bin, "postgres"), ["-D", data, "-k", directory, "-c", "listen_addresses="], {
    ...asServer,
    cwd: directory,
    stdio: "ignore",
  });
  const socket = join(directory, ".s.PGSQL.5432");
  for (let tries = 0; !existsSync(socket) && tries < 100; tries++) await pause(100);
  let count = 0;
  return {
    newDatabase: async () => {
      const name = `tejado${++count}`;
      for (let tries = 0; ; tries++) {
        try {
          run("createdb", "-h", directory, "-U", "tejado", name);
          break;
        } catch (error) {
          if (tries > 30) throw error;
          await pause(100);
        }
      }
      return `postgres://tejado@/${name}?host=${encodeURIComponent(directory)}`;
    },
    stop: async () => {
      const ended = new Promise((resolve) => server.once("exit", resolve));
      server.kill("SIGINT");
      await ended;
      rmSync(directory, { recursive: true, force: true });
    },
  };
}

/** Whom the server runs as; undefined where this process is not root. */
function serverUser(): { uid: number; gid: number } | undefined {
  if (process.getuid?.() !== 0) return undefined;
  const id = (flag: string) => Number(spawnSync("id", [flag, "postgres"], { encoding: "utf8" }).stdout.trim());
  return { uid: id("-u"), gid: id("-g") };
}
