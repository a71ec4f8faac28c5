import { expect, test } from "@jest/globals";
import { fieldsOf, ROW_KINDS } from "#core/plan";
import { migrate } from "./database";
import { pgliteDb } from "./drivers/pglite";
import { toSnake } from "./rows";
import { bareDatabase } from "./testing";

/** What tables hold beside the fields of their rows. */
const BESIDE: Record<string, readonly string[]> = { plans: ["revision"], photos: ["bytes"] };

test("each table has the columns that its kind declares, and takes none where the field may be none", async () => {
  const pglite = await bareDatabase();
  const db = pgliteDb(pglite);
  await migrate(db);
  for (const kind of ROW_KINDS) {
    const { rows } = await db.query<{ name: string; nullable: string }>(
      "SELECT column_name AS name, is_nullable AS nullable FROM information_schema.columns WHERE table_name = $1",
      [kind],
    );
    const inTable = rows
      .filter(({ name }) => !BESIDE[kind]?.includes(name))
      .map(({ name, nullable }) => `${name}${nullable === "YES" ? "?" : ""}`);
    const declared = fieldsOf(kind).map(
      ({ name, schema }) => `${toSnake(name)}${schema.safeParse(null).success ? "?" : ""}`,
    );
    expect([kind, ...inTable.sort()]).toEqual([kind, ...declared.sort()]);
  }
  await pglite.close();
}, 60_000);
