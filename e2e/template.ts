import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { firstLook } from "./firstLook";
import { startServer, stopServer } from "./startServer";

/** Where the demo lies as it is first made: making it anew for each server takes longer than copying it. */
export const TEMPLATE = "TEJADO_E2E_TEMPLATE";

/** Makes the demo once for all servers, its first look with it; takes it away when every test has ended. */
export default async function makeTemplate(): Promise<() => void> {
  const directory = mkdtempSync(join(tmpdir(), "tejado-template-"));
  const server = await startServer(["--demo"], directory);
  await firstLook(server);
  await stopServer(server);
  process.env[TEMPLATE] = directory;
  return () => rmSync(directory, { recursive: true, force: true });
}
