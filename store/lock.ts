import { createHash } from "node:crypto";
import { realpathSync } from "node:fs";
import { createServer, type Server } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Thrown when another process has the data directory open. */
export class DataDirectoryBusy extends Error {
  constructor(directory: string) {
    super(
      `${directory} is in use by another Tejado process. Stop that one first, or name another directory in TEJADO_DATA.`,
    );
    this.name = "DataDirectoryBusy";
  }
}

/**
 * Holds a data directory for this process, or throws DataDirectoryBusy. The hold is a listening socket named after the
 * directory: the kernel gives it to one process only and takes it back however that process ends, kill -9 included.
 */
export async function holdDataDirectory(directory: string): Promise<() => Promise<void>> {
  const name = `tejado-${createHash("sha256").update(realpathSync(directory)).digest("hex").slice(0, 24)}`;
  // Linux's abstract sockets leave no file behind; elsewhere a pipe or a socket in the temporary directory serves.
  const address =
    process.platform === "linux"
      ? `\0${name}`
      : process.platform === "win32"
        ? `\\\\.\\pipe\\${name}`
        : join(tmpdir(), name);
  const server = createServer((socket) => socket.destroy());
  await listen(server, address, directory);
  server.unref();
  return () => new Promise((resolve) => server.close(() => resolve()));
}

function listen(server: Server, address: string, directory: string): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once("error", (error: NodeJS.ErrnoException) =>
      reject(error.code === "EADDRINUSE" ? new DataDirectoryBusy(directory) : error),
    );
    server.listen(address, resolve);
  });
}
