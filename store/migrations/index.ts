import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

/** The SQL files lie beside this one in the source tree; what is built of it stands some folders below the root that they lie under. */
function migrationsFolder(): string {
  const beside = dirname(fileURLToPath(import.meta.url));
  if (existsSync(join(beside, FIRST))) return beside;
  for (let root = dirname(beside); root !== dirname(root); root = dirname(root))
    if (existsSync(join(root, "store", "migrations", FIRST))) return join(root, "store", "migrations");
  throw new Error("Tejado's migrations are not where they were installed");
}
const FIRST = "0001-plan.sql";

/** All migrations in order; the file named 0001-… is number 1, and no number is left out. */
export const MIGRATIONS: readonly string[] = readdirSync(migrationsFolder())
  .filter((name) => name.endsWith(".sql"))
  .sort()
  .map((name, index) => {
    if (Number(name.slice(0, 4)) !== index + 1)
      throw new Error(`migration ${name} is out of order; number ${index + 1} was expected`);
    return readFileSync(join(migrationsFolder(), name), "utf8");
  });
