import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { BEGUN_STORE } from "./names";

/** Before all test files: makes room for the store that they begin with. */
export default function setUp(): void {
  process.env[BEGUN_STORE] = mkdtempSync(join(tmpdir(), "tejado-begun-"));
}
