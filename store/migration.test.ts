import { expect, test } from "@jest/globals";
import { peakGainDbi } from "#core/antenna";
import { fieldsOf, setPatch, USUAL, type PlanRows, type Radio, type RowKind } from "#core/plan";
import { valley } from "#core/testing";
import { readHistory, readPlan, readVersion, recordChange, signedBy, stepRecord, type Db } from "#store";
import { migrate } from "./database";
import { pgliteDb } from "./drivers/pglite";
import { MIGRATIONS } from "./migrations";
import { bareDatabase } from "./testing";

type Row = Record<string, unknown>;

/** A row of today as it was when only the first `schema` migrations had run. */
function rowThen(schema: number, kind: RowKind, row: object): Row {
  const then: Row = { ...row };
  for (const { name, facts } of fieldsOf(kind)) if ((facts.since ?? 0) > schema) delete then[name];
  if (kind === "radios") for (const field of ["timingGroup", "arriveAtDbm", "downShare"]) delete then[field];
  if (schema < 7 && kind === "radios") return then;
  if (kind === "radios") for (const field of ["frequencyMHz", "widthMHz"]) delete then[field];
  if (schema < 4 && kind === "equipment") {
    const body: Row = { ...(then.body as Row) };
    if (then.kind === "antenna")
      body.gainAcrossBand = (body.gainAcrossBand as Row[]).map(({ frequencyMHz, vDbi }) => ({
        frequencyMHz,
        gainDbi: vDbi,
      }));
    else
      for (const name of ["rangeLimitKm", "adjacentRejectionDb", "ports", "poleMm", "alignmentAid"]) delete body[name];
    then.body = body;
  }
  return then;
}

interface Then {
  db: Db;
  radios: Radio[];
  rows: PlanRows;
}

/** A database as one of the earlier migrations left it, with the valley in it as it was then. */
async function databaseAt(schema: number): Promise<Then> {
  const pglite = await bareDatabase();
  const db = pgliteDb(pglite);
  await pglite.exec("CREATE TABLE migrations (number int PRIMARY KEY, applied_at timestamptz NOT NULL DEFAULT now())");
  for (const [index, sql] of MIGRATIONS.slice(0, schema).entries()) {
    await pglite.exec(sql);
    await pglite.query("INSERT INTO migrations (number) VALUES ($1)", [index + 1]);
  }
  // The library had no parts before migration 14.
  const { rows, world } = valley(0, (now) => {
    now.equipment = now.equipment.filter(({ kind }) => schema >= 14 || kind !== "part");
  });
  const radios = [...world.radios.values()];
  const insert = async (kind: RowKind, row: object) => {
    const record = Object.fromEntries(
      Object.entries(rowThen(schema, kind, row)).map(([name, value]) => [
        name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`),
        value,
      ]),
    );
    await pglite.query(
      `INSERT INTO ${kind} (${Object.keys(record).join(", ")}) SELECT ${Object.keys(record).join(", ")} FROM jsonb_populate_record(NULL::${kind}, $1::jsonb)`,
      [JSON.stringify(record)],
    );
  };
  await insert("plans", rows.plan);
  for (const kind of ["sites", "subscribers", "equipment"] as const)
    for (const row of rows[kind]) await insert(kind, row);
  if (schema >= 7) for (const row of rows.carriers) await insert("carriers", row);
  for (const radio of radios) await insert("radios", radio);
  for (const link of rows.links) await insert("links", link);
  return { db, radios, rows };
}

/** Logs a change as it was logged before the record went by field: each row whole, before and after. */
async function logWholeRows(
  db: Db,
  schema: number,
  position: number,
  edits: { kind: RowKind; id: string; before: object | null; after: object | null }[],
) {
  const then = edits.map((edit) => ({
    ...edit,
    before: edit.before && rowThen(schema, edit.kind, edit.before),
    after: edit.after && rowThen(schema, edit.kind, edit.after),
  }));
  const { rows } = await db.query<{ id: number }>(
    "INSERT INTO history (plan_id, who, what, reason, kind, edits) VALUES ('valley', 'Ana', $1, '', 'change', $2::jsonb) RETURNING id::int AS id",
    [`Change ${position}`, JSON.stringify(then)],
  );
  await db.query("INSERT INTO history_stack (plan_id, position, history_id, undone) VALUES ('valley', $1, $2, false)", [
    position,
    rows[0]!.id,
  ]);
}

test.each([3, 4, 5])(
  "a plan of migration %i opens with equal rows, and its last changes can be taken back",
  async (schema) => {
    const { db, radios, rows } = await databaseAt(schema);
    const site = rows.sites[0]!;
    const radio = (id: string) => radios.find((one) => one.id === id)!;
    // What was done then: the sector and its customer moved to another channel, the bridge taken out, the site renamed.
    await db.query("UPDATE radios SET frequency_m_hz = 5300 WHERE id IN ('sector', 'farm-radio')");
    await logWholeRows(
      db,
      schema,
      1,
      ["sector", "farm-radio"].map((id) => ({
        kind: "radios" as const,
        id,
        before: radio(id),
        after: { ...radio(id), frequencyMHz: 5300 },
      })),
    );
    const bridge = rows.links.find(({ id }) => id === "bridge")!;
    await db.exec("DELETE FROM links WHERE id = 'bridge'; DELETE FROM radios WHERE id IN ('west-east', 'east-west');");
    await logWholeRows(db, schema, 2, [
      { kind: "links", id: "bridge", before: bridge, after: null },
      ...["west-east", "east-west"].map((id) => ({ kind: "radios" as const, id, before: radio(id), after: null })),
    ]);
    await db.exec("UPDATE sites SET name = 'Renamed' WHERE id = 'west'");
    await logWholeRows(db, schema, 3, [
      { kind: "sites", id: "west", before: site, after: { ...site, name: "Renamed" } },
    ]);
    // A site that was there for a while, as its rows were then: put back and taken out by redo and undo.
    const spare = { ...rows.sites[1]!, id: "spare" };
    await logWholeRows(db, schema, 4, [{ kind: "sites", id: "spare", before: spare, after: null }]);

    await migrate(db);
    const names = async () => (await readPlan(db, "valley"))!.sites.map(({ name }) => name).sort();
    expect(await names()).toEqual(["Renamed", "east"]);
    const read = (await readPlan(db, "valley"))!;
    expect(read.carriers).toEqual([
      { id: "sector", planId: "valley", frequencyMHz: 5300, widthMHz: 20, ...USUAL.carriers },
    ]);
    const ana = signedBy("Ana");
    const undo = () => stepRecord(db, { planId: "valley", ...ana, way: "undo" });
    expect(await undo()).toMatchObject({ kind: "kept", what: "Change 4" });
    expect((await readPlan(db, "valley"))!.sites.find(({ id }) => id === "spare")).toMatchObject({
      ...spare,
      access: "",
    });
    expect(await undo()).toMatchObject({ kind: "kept", what: "Change 3" });
    expect(await names()).toEqual(["east", "east", "west"]);
    expect(await undo()).toMatchObject({ kind: "kept", what: "Change 2" });
    expect(await undo()).toMatchObject({ kind: "kept", what: "Change 1" });
    expect(await undo()).toBeNull();
    const sorted = <T extends { id: string }>(list: T[]) => [...list].sort((x, y) => x.id.localeCompare(y.id));
    const back = (await readPlan(db, "valley"))!;
    expect(sorted(back.radios)).toEqual(sorted(rows.radios));
    expect(sorted(back.carriers)).toEqual(sorted(rows.carriers));
    expect(sorted(back.links)).toEqual(sorted(rows.links));
    const { plan } = back;
    expect(plan).toEqual(rows.plan);
    const dish = back.equipment.find(({ id }) => id === "brisote-plato-5-30")!;
    if (dish.kind !== "antenna") throw new Error("the dish is no antenna any more");
    expect(peakGainDbi(dish.body, 5500)).toBeCloseTo(30, 9);
    const entries = await readHistory(db, "valley");
    expect(entries.map(({ revision }) => revision)).toEqual([8, 7, 6, 5, 4, 3, 2, 1]);
    await db.close();
  },
);

test("changes kept by field before channels had carriers can be taken back and made again", async () => {
  const { db, rows } = await databaseAt(6);
  const kept = [
    {
      kind: "radios" as const,
      id: "sector",
      set: { frequencyMHz: 5200, heightM: 30 },
      was: { frequencyMHz: 5260, heightM: 25 },
    },
    { kind: "radios", id: "farm-radio", set: { frequencyMHz: 5200 }, was: { frequencyMHz: 5260 } },
  ];
  await db.query(
    "INSERT INTO history (plan_id, who, what, reason, kind, revision, author, schema, patches, state) VALUES ('valley', 'Ana', 'Moved', '', 'change', 1, 'name:Ana', 6, $1::jsonb, 'inForce')",
    [JSON.stringify(kept)],
  );
  await db.exec("UPDATE plans SET revision = 1");
  await migrate(db);
  const sector = async () => {
    const now = (await readPlan(db, "valley"))!;
    return [
      now.carriers.find(({ id }) => id === "sector")!.frequencyMHz,
      now.radios.find(({ id }) => id === "sector")!.heightM,
    ];
  };
  expect(await sector()).toEqual([5200, 30]);
  expect(await stepRecord(db, { planId: "valley", ...signedBy("Ana"), way: "undo" })).toMatchObject({ kind: "kept" });
  expect(await sector()).toEqual([5260, 25]);
  expect(await stepRecord(db, { planId: "valley", ...signedBy("Ana"), way: "redo" })).toMatchObject({ kind: "kept" });
  expect(await sector()).toEqual([5200, 30]);
  expect((await readPlan(db, "valley"))!.carriers).toHaveLength(rows.carriers.length);
  await db.close();
});

test("far ends that stood on another channel keep a carrier of their own, and a version of then opens too", async () => {
  const { db, radios, rows } = await databaseAt(5);
  await db.query("UPDATE radios SET frequency_m_hz = 5745 WHERE id = 'farm-radio'");
  const then = { ...rows, carriers: undefined, radios: radios.map((radio) => rowThen(5, "radios", radio)) };
  await db.query(
    "INSERT INTO versions (plan_id, id, name, who, history_id, rows) VALUES ('valley', 'v', 'then', 'Ana', 0, $1::jsonb)",
    [JSON.stringify(then)],
  );
  await migrate(db);
  const read = (await readPlan(db, "valley"))!;
  expect(Object.fromEntries(read.carriers.map(({ id, frequencyMHz }) => [id, frequencyMHz]))).toEqual({
    "farm-radio": 5745,
    sector: 5200,
    "west-east": 5800,
  });
  const version = (await readVersion(db, "valley", "v"))!;
  expect(version.carriers).toEqual(rows.carriers);
  expect(version.radios).toEqual(rows.radios);
  await db.close();
});

test("a plan of an earlier Tejado can be changed and written", async () => {
  const { db } = await databaseAt(3);
  await migrate(db);
  const outcome = await recordChange(db, {
    planId: "valley",
    ...signedBy("now"),
    what: "Took the climate of the latitude",
    patches: [
      setPatch("plans", "valley", { rainRate001MmPerH: null, season: "bare" }),
      setPatch("links", "bridge", { foliageDepthM: null }),
    ],
  });
  expect(outcome).toMatchObject({ kind: "kept", revision: 1 });
  const after = (await readPlan(db, "valley"))!;
  expect(after.plan).toMatchObject({ rainRate001MmPerH: null, season: "bare" });
  expect(after.links.find(({ id }) => id === "bridge")!.foliageDepthM).toBeNull();
  await db.close();
});

test("migrating again changes nothing, and a newer schema than ours is refused", async () => {
  const db = pgliteDb(await bareDatabase());
  await migrate(db);
  await migrate(db);
  expect((await db.query("SELECT * FROM migrations")).rows).toHaveLength(MIGRATIONS.length);
  await db.query("INSERT INTO migrations (number) VALUES ($1)", [MIGRATIONS.length + 1]);
  await expect(migrate(db)).rejects.toThrow("Use a newer Tejado");
  await db.close();
});
