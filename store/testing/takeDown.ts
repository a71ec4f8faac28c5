import { rmSync } from "node:fs";
import { BEGUN_STORE } from "./names";

/** After all test files. */
export default function takeDown(): void {
  rmSync(process.env[BEGUN_STORE]!, { recursive: true, force: true });
}
