import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { startServer, stopServer } from "./startServer";

/** Where the demo lies as it is first made: making it anew for each server takes longer than copying it. */
export const TEMPLATE = "TEJADO_E2E_TEMPLATE";

/** Makes the demo once for all servers; takes it away when every test has ended. */
export default async function makeTemplate(): Promise<() => void> {
  const directory = mkdtempSync(join(tmpdir(), "tejado-template-"));
  await stopServer(await startServer(["--demo"], directory));
  process.env[TEMPLATE] = directory;
  return () => rmSync(directory, { recursive: true, force: true });
}
