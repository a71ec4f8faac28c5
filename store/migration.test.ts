import { PGlite } from "@electric-sql/pglite";
import { expect, test } from "@jest/globals";
import { peakGainDbi } from "#core/antenna";
import { valley } from "#core/testing";
import { applyChange, readPlan } from "#store";
import { migrate } from "./database";
import { MIGRATIONS } from "./migrations";

/** Columns that came with the migration looked at here. */
const NEW_PLAN_FIELDS = [
  "own_rules",
  "d_n1_n_per_km",
  "clearance_school",
  "climate",
  "season",
  "pointing_error_deg",
] as const;

/** A database as the third migration left it, with a plan whose sheets are those of that time. */
async function databaseOfThen(): Promise<PGlite> {
  const db = await PGlite.create();
  await db.exec("CREATE TABLE migrations (number int PRIMARY KEY, applied_at timestamptz NOT NULL DEFAULT now())");
  for (const [index, sql] of MIGRATIONS.slice(0, 3).entries()) {
    await db.exec(sql);
    await db.query("INSERT INTO migrations (number) VALUES ($1)", [index + 1]);
  }
  const { rows } = valley();
  const insert = async (table: string, row: Record<string, unknown>) => {
    const record = Object.fromEntries(
      Object.entries(row).map(([name, value]) => [
        name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`),
        value,
      ]),
    );
    await db.query(`INSERT INTO ${table} SELECT * FROM jsonb_populate_record(NULL::${table}, $1::jsonb)`, [
      JSON.stringify(record),
    ]);
  };
  const plan: Record<string, unknown> = { ...rows.plan };
  for (const name of ["ownRules", "dN1NPerKm", "clearanceSchool", "climate", "season", "pointingErrorDeg"])
    delete plan[name];
  await insert("plans", plan);
  for (const site of rows.sites) await insert("sites", site);
  for (const subscriber of rows.subscribers) await insert("subscribers", subscriber);
  for (const { id, planId, kind, body } of rows.equipment) {
    const old: Record<string, unknown> = { ...body };
    if (kind === "antenna")
      old.gainAcrossBand = body.gainAcrossBand.map(({ frequencyMHz, vDbi }) => ({ frequencyMHz, gainDbi: vDbi }));
    else
      for (const name of ["rangeLimitKm", "adjacentRejectionDb", "ports", "poleMm", "alignmentAid"]) delete old[name];
    await insert("equipment", { id, planId, kind, body: old });
  }
  for (const radio of rows.radios) await insert("radios", radio);
  for (const link of rows.links) await insert("links", link);
  await db.query(
    "INSERT INTO history (plan_id, who, what, reason, kind, patches) VALUES ('valley', 'then', 'Began', '', 'change', '[]')",
  );
  return db;
}

test("a plan of an earlier Tejado opens with its links, sheets and settings, and can be changed and written", async () => {
  const db = await databaseOfThen();
  await migrate(db);
  const read = (await readPlan(db, "valley"))!;
  const now = valley().rows;
  expect(read.plan).toEqual({ ...now.plan, rainRate001MmPerH: now.plan.rainRate001MmPerH });
  expect(read.links.map(({ foliageDepthM }) => foliageDepthM)).toEqual([0, 0]);
  const dish = read.equipment.find(({ id }) => id === "brisote-plato-5-30")!;
  if (dish.kind !== "antenna") throw new Error("the dish is no antenna any more");
  expect(peakGainDbi(dish.body, 5500)).toBeCloseTo(30, 9);
  const radio = read.equipment.find(({ id }) => id === "brisote-tramo-5")!;
  expect(radio.kind === "radio" && radio.body.rangeLimitKm).toBe(100);
  await applyChange(db, {
    planId: "valley",
    who: "now",
    what: "Took the climate of the latitude",
    patches: [
      { kind: "plans", id: "valley", row: { ...read.plan, rainRate001MmPerH: null, season: "bare" } },
      { kind: "links", id: "bridge", row: { ...read.links.find(({ id }) => id === "bridge")!, foliageDepthM: null } },
    ],
  });
  const after = (await readPlan(db, "valley"))!;
  expect(after.plan).toMatchObject({ rainRate001MmPerH: null, season: "bare" });
  expect(after.links.find(({ id }) => id === "bridge")!.foliageDepthM).toBeNull();
  const columns = await db.query<{ column_name: string }>(
    "SELECT column_name FROM information_schema.columns WHERE table_name = 'plans'",
  );
  expect(columns.rows.map(({ column_name }) => column_name)).toEqual(expect.arrayContaining([...NEW_PLAN_FIELDS]));
  await db.close();
});

test("migrating again changes nothing, and a newer schema than ours is refused", async () => {
  const db = await PGlite.create();
  await migrate(db);
  await migrate(db);
  expect((await db.query("SELECT * FROM migrations")).rows).toHaveLength(MIGRATIONS.length);
  await db.query("INSERT INTO migrations (number) VALUES ($1)", [MIGRATIONS.length + 1]);
  await expect(migrate(db)).rejects.toThrow("Use a newer Tejado");
  await db.close();
});
