// Runs a TypeScript file of this project: node scripts/run.mjs scripts/backup.ts
import { ensureInstalled, run } from "./prepare.mjs";

ensureInstalled();
process.exit(run("npx", ["tsx", ...process.argv.slice(2)]) ? 0 : 1);
