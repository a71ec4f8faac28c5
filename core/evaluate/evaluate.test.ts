// What is worked out after a change is what is worked out from nothing, whatever the change.
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  evaluate,
  evaluateAfter,
  evaluateGently,
  evaluateOwn,
  reviewed,
  reviewPlan,
  type Evaluation,
} from "#core/evaluate";
import type { Tape } from "#core/link";
import { putPatch, removePatch, setPatch, untuned, withPatches, type Patch, type Scan, type World } from "#core/plan";
import { plainTerrain, profileScratch, sampleProfile } from "#core/terrain";
import { radio, radioIn, reading, valley, valleySurface, type Valley, type ValleyRows } from "#core/testing";

/** The valley with a second bridge on its channel, and a second sector with three customers beside the first one's. */
function town(rows: ValleyRows): void {
  const [west] = rows.sites;
  const [bridge, access] = rows.links;
  const [sector, client] = [radioIn(rows, "sector"), radioIn(rows, "farm-radio")];
  rows.sites.push(
    { ...west!, id: "north-west", name: "north-west", latDeg: -0.99, isFeed: false },
    { ...west!, id: "north-east", name: "north-east", latDeg: -0.99, lonDeg: 20.11, isFeed: false },
  );
  rows.radios.push(radio("nw", { siteId: "north-west" }), radio("ne", { siteId: "north-east" }), {
    ...sector,
    id: "sector-2",
    name: "sector-2",
    siteId: "north-west",
    carrierId: "sector-2",
  });
  rows.links.push({ ...bridge!, id: "second", aRadioId: "nw", bRadioId: "ne" });
  for (let i = 0; i < 3; i++) {
    const id = `house-${i}`;
    rows.subscribers.push({ ...rows.subscribers[0]!, id, name: id, latDeg: -0.994 + 0.002 * i, lonDeg: 20.03 });
    rows.radios.push({ ...client, id: `r${i}`, name: `r${i}`, subscriberId: id, carrierId: "sector-2" });
    rows.links.push({ ...access!, id: `l${i}`, aRadioId: "sector-2", bRadioId: `r${i}` });
  }
}
const made = valley(12, town);

/** The valley with more bridges on one channel than anybody is held against, and houses that take turns on two sectors of it. */
function crowd(rows: ValleyRows): void {
  const [west] = rows.sites;
  const [bridge, access] = rows.links;
  const [sector, client] = [radioIn(rows, "sector"), radioIn(rows, "farm-radio")];
  for (let i = 0; i < 14; i++) {
    for (const [end, lonDeg] of [
      ["w", 20],
      ["e", 20.11],
    ] as const) {
      const id = `${end}-${i}`;
      rows.sites.push({ ...west!, id, name: id, latDeg: -0.97 + 0.004 * i, lonDeg, isFeed: false });
      rows.radios.push(radio(`r-${id}`, { siteId: id, txPowerDbm: 12 + (i % 5) }));
    }
    rows.links.push({ ...bridge!, id: `bridge-${i}`, aRadioId: `r-w-${i}`, bRadioId: `r-e-${i}` });
  }
  for (const s of [0, 1]) {
    const id = `sector-${s}`;
    rows.radios.push({ ...sector, id, name: id, siteId: `w-${s * 5}`, carrierId: id, frequencyMHz: 5800 });
    for (let i = 0; i < 4; i++) {
      const house = `house-${s}-${i}`;
      // Two to a house: equally loud, so that the first by id is told.
      const place = { latDeg: -0.968 + 0.01 * s + 0.003 * (i >> 1), lonDeg: 20.02 };
      rows.subscribers.push({ ...rows.subscribers[0]!, id: house, name: house, ...place });
      const own = { id: `r-${house}`, name: house, subscriberId: house, carrierId: id, frequencyMHz: 5800 };
      rows.radios.push({ ...client, ...own });
      rows.links.push({ ...access!, id: `l-${house}`, aRadioId: id, bRadioId: `r-${house}` });
    }
  }
}
const terrain = plainTerrain(valleySurface(12));

/** The figures of a tape, without the rows that they were worked out from. */
const figures = (tape: Tape) => ({ ...tape, question: null, limit: tape.limit.covered });
const plain = ({ heardNear, heardFar, answers, summaries, outcome, findings, counts, found }: Evaluation) => ({
  heard: [heardNear, heardFar].map((heard) => [...heard].map(([id, { noise }]) => [id, noise])),
  answers: [...answers].map(([id, { path, ...rest }]) => [
    id,
    rest,
    path && { ...path, aToB: figures(path.aToB), bToA: figures(path.bToA) },
  ]),
  summaries: [...summaries],
  outcome,
  findings,
  counts,
  found: [...found],
});

const scan: Scan = {
  ...{ id: "scan", planId: "valley", siteId: "west", headingDeg: 95, beamwidthDeg: 60, gainDbi: 12, polarization: "V" },
  ...{ scannedAt: "2026-03-01T00:00:00.000Z", source: "typed rows", binKHz: 1000 },
  frequenciesMHz: [5490, 5500, 5510],
  levelsDbm: [-70, -60, -72],
};

/** Any one change that can be kept of the world as it stands. */
const change = (world: World, first: World): fc.Arbitrary<readonly Patch[]> => {
  const radios = [...world.radios.keys()];
  const anyRadio = fc.constantFrom(...radios);
  const sites = fc.constantFrom(...world.sites.keys());
  const customers = fc.constantFrom(...world.subscribers.keys());
  const carriers = fc.constantFrom(...world.carriers.keys());
  const one = (patches: fc.Arbitrary<Patch>) => patches.map((patch) => [patch]);
  const links = [...world.links.values()];
  const gone = [...first.links.values()].filter(({ id }) => !world.links.has(id));
  return fc.oneof(
    one(
      fc
        .tuple(sites, fc.integer({ min: -30, max: 30 }))
        .map(([id, d]) => setPatch("sites", id, { lonDeg: world.sites.get(id)!.lonDeg + d / 1e4 })),
    ),
    one(sites.map((id) => setPatch("sites", id, { notes: "wasps", freeMounts: 1, isFeed: id === "north-west" }))),
    one(sites.map((id) => setPatch("sites", id, { notes: "dog", access: "key", terms: "rent", hazards: "roof" }))),
    one(sites.map((id) => setPatch("sites", id, { name: `${id} mast`, structureHeightM: 18 }))),
    one(
      fc
        .tuple(customers, fc.integer({ min: -30, max: 30 }))
        .map(([id, d]) => setPatch("subscribers", id, { latDeg: world.subscribers.get(id)!.latDeg + d / 1e4 })),
    ),
    one(
      fc
        .tuple(customers, fc.integer({ min: 1, max: 200 }))
        .map(([id, n]) => setPatch("subscribers", id, { demandMbps: n, people: n })),
    ),
    one(customers.map((id) => setPatch("subscribers", id, { behind: "thermally_efficient", name: `${id} again` }))),
    one(
      fc
        .tuple(anyRadio, fc.integer({ min: 0, max: 359 }))
        .map(([id, azimuthDeg]) => setPatch("radios", id, { azimuthDeg })),
    ),
    one(
      fc.tuple(anyRadio, fc.integer({ min: 2, max: 39 })).map(([id, heightM]) => setPatch("radios", id, { heightM })),
    ),
    one(
      fc
        .tuple(anyRadio, fc.integer({ min: 5, max: 25 }))
        .map(([id, txPowerDbm]) => setPatch("radios", id, { txPowerDbm })),
    ),
    one(
      fc
        .tuple(anyRadio, fc.constantFrom("H", "V", "HV"))
        .map(([id, polarization]) => setPatch("radios", id, { polarization } as object)),
    ),
    one(anyRadio.map((id) => setPatch("radios", id, { name: `${id} renamed`, tiltDownDeg: 3, cableLossDb: 1 }))),
    one(
      fc
        .tuple(carriers, fc.constantFrom(5500, 5520, 5600, 5800))
        .map(([id, frequencyMHz]) => setPatch("carriers", id, { frequencyMHz })),
    ),
    one(
      fc
        .tuple(carriers, fc.constantFrom("", "one"))
        .map(([id, timingGroup]) => setPatch("carriers", id, { timingGroup })),
    ),
    one(
      fc
        .tuple(carriers, fc.constantFrom(null, -65))
        .map(([id, arriveAtDbm]) => setPatch("carriers", id, { arriveAtDbm })),
    ),
    one(fc.constant(setPatch("plans", "valley", { name: "Another" }))),
    one(fc.constantFrom(1.1, 4 / 3).map((kFactor) => setPatch("plans", "valley", { kFactor }))),
    fc.constant([world.scans.has("scan") ? removePatch("scans", "scan") : putPatch("scans", scan)] as Patch[]),
    fc.constant([
      world.measurements.has("m") ? removePatch("measurements", "m") : putPatch("measurements", reading(-60, -75)),
    ]),
    ...(links.length > 1 ? [one(fc.constantFrom(...links).map(({ id }) => removePatch("links", id)))] : []),
    ...(gone.length > 0 ? [one(fc.constantFrom(...gone).map((link) => putPatch("links", link)))] : []),
    one(
      fc
        .tuple(anyRadio, fc.constantFrom("brisote-plato-5-30", "brisote-arco-5-17-90"))
        .map(([id, antennaModelId]) => setPatch("radios", id, { antennaModelId })),
    ),
    fc.constant([
      setPatch("links", links[0]!.id, { foliageDepthM: 4 }),
      ...(world.radios.has("r0") && world.radios.has("sector") && links.some(({ bRadioId }) => bRadioId === "r0")
        ? [setPatch("links", links.find(({ bRadioId }) => bRadioId === "r0")!.id, { aRadioId: "sector" })]
        : []),
    ]),
  );
};

/** Holds any sequence of changes to a plan equal to working out from nothing where each leads. */
function sameAsFromNothing({ world, between }: Valley, numRuns: number): void {
  fc.assert(
    fc.property(fc.array(fc.nat(), { minLength: 1, maxLength: 6 }), (seeds) => {
      let now = evaluate(world, between);
      for (const seed of seeds) {
        const [patches] = fc.sample(change(now.world, world), { numRuns: 1, seed });
        now = evaluateAfter(now, patches!, between);
        expect({ patches, ...plain(now) }).toEqual({ patches, ...plain(evaluate(now.world, between)) });
      }
    }),
    { numRuns },
  );
}

test("after any sequence of changes everything stands as if it had been worked out from nothing", () => {
  sameAsFromNothing(made, 60);
}, 300_000);

test("so it does where more are heard than anybody is held against, and where customers take turns", () => {
  sameAsFromNothing(valley(12, crowd), 12);
}, 300_000);

describe("what a change does not touch is taken over", () => {
  const first = evaluate(made.world, made.between);
  const after = (...patches: Patch[]) => evaluateAfter(first, patches, made.between);
  const answered = (...patches: Patch[]) => [...after(...patches).answered].sort();

  test("a note answers nothing anew, a demand its own link, an azimuth the sector's customers", () => {
    expect(answered(setPatch("sites", "west", { notes: "bees" }))).toEqual([]);
    expect(answered(setPatch("plans", "valley", { name: "Another" }))).toEqual([]);
    expect(answered(setPatch("subscribers", "house-1", { demandMbps: 3 }))).toEqual(["l1"]);
    const apart = evaluateAfter(first, [setPatch("carriers", "sector-2", { frequencyMHz: 5700 })], made.between);
    const turned = evaluateAfter(apart, [setPatch("radios", "sector-2", { azimuthDeg: 120 })], made.between);
    expect([...turned.answered].sort()).toEqual(["l0", "l1", "l2"]);
    expect(turned.answers.get("bridge")).toBe(first.answers.get("bridge"));
  });

  test("whoever hears a sector that moves onto its channel is answered anew", () => {
    expect(answered(setPatch("carriers", "sector-2", { frequencyMHz: 5700 }))).toEqual(
      expect.arrayContaining(["access", "l0", "l1", "l2"]),
    );
  });

  test("settings that answers are made from answer everything", () => {
    expect(answered(setPatch("plans", "valley", { kFactor: 1 }))).toHaveLength(made.world.links.size);
  });

  test("a finding that stands as it stood is the same object", () => {
    const { findings } = after(setPatch("subscribers", "house-1", { demandMbps: 3 }));
    const said = new Map(first.findings.map((finding) => [JSON.stringify(finding), finding]));
    const still = findings.filter((finding) => said.has(JSON.stringify(finding)));
    expect(still.length).toBeGreaterThanOrEqual(first.findings.length - 2);
    for (const finding of still) expect(finding).toBe(said.get(JSON.stringify(finding)));
  });

  test("another reading changes what is found, and no answer", () => {
    const bad = after(putPatch("measurements", reading(-60, -95)));
    expect([...bad.answered]).toEqual([]);
    expect(bad.findings.map(({ check }) => check)).toEqual(expect.arrayContaining(["failed"]));
  });
});

test("worked out in portions it is the same, and rests whenever that is due", async () => {
  let rests = 0;
  const scratch = profileScratch();
  const glance: typeof made.between = (from, to) => sampleProfile(terrain, from, to, undefined, scratch);
  const pace = { isDue: () => true, rest: () => Promise.resolve(void rests++) };
  const gently = await evaluateGently({ world: made.world }, glance, pace);
  expect(plain(gently)).toEqual(plain(evaluate(made.world, made.between)));
  expect(rests).toBeGreaterThanOrEqual(made.world.links.size);
  const patches = [setPatch("subscribers", "house-1", { demandMbps: 3 })];
  const world = withPatches(made.world, patches);
  const next = await evaluateGently({ previous: gently, patches, world }, glance, pace);
  expect(plain(next)).toEqual(plain(evaluate(world, made.between)));
  expect(reviewed(next, made.between).findings).toEqual(reviewPlan(world, made.between).findings);
});

test("a radio put without its link is silent until the link comes", () => {
  const bare: Valley = valley(12, (rows) => {
    town(rows);
    rows.links = rows.links.filter(({ id }) => id !== "second");
  });
  const silent = evaluate(bare.world, bare.between);
  const link = made.world.links.get("second")!;
  const loud = evaluateAfter(silent, [putPatch("links", link)], bare.between);
  expect(plain(loud)).toEqual(plain(evaluate(loud.world, bare.between)));
  const row = untuned(loud.world.radios.get("nw")!);
  const again = evaluateAfter(loud, [removePatch("links", "second"), removePatch("radios", "nw")], bare.between);
  expect(plain(again)).toEqual(plain(evaluate(again.world, bare.between)));
  const back = evaluateAfter(again, [putPatch("radios", row), putPatch("links", link)], bare.between);
  expect(
    plain(back)
      .summaries.map(([id]) => id)
      .sort(),
  ).toEqual(
    plain(loud)
      .summaries.map(([id]) => id)
      .sort(),
  );
});

describe("a first look", () => {
  const first = evaluate(made.world, made.between);
  const look = (...patches: Patch[]) => {
    const world = withPatches(made.world, patches);
    return { own: evaluateOwn({ previous: first, patches, world }, made.between), all: evaluate(world, made.between) };
  };

  test("answers the links that a change is about as they will be, apart from what they hear of it", () => {
    const { own, all } = look(setPatch("radios", "sector-2", { azimuthDeg: 100 }));
    expect([...own!.answered].sort()).toEqual(["l0", "l1", "l2"]);
    for (const id of ["l0", "l1", "l2"])
      expect(own!.answers.get(id)!.path!.aToB.chainLevelDbm).toBe(all.answers.get(id)!.path!.aToB.chainLevelDbm);
    expect(own!.answers.get("bridge")).toBe(first.answers.get("bridge"));
  });

  test("is not taken where nobody else hears of it, where links come or go, or where everything is another", () => {
    expect(look(setPatch("subscribers", "house-1", { demandMbps: 3 })).own).toBeNull();
    expect(look(removePatch("links", "second")).own).toBeNull();
    expect(look(setPatch("plans", "valley", { kFactor: 1 })).own).toBeNull();
  });
});

test("all that is worked out is plain data: it can be handed to another thread", () => {
  const { air, heardNear, heardFar, answers, summaries, outcome, findings } = evaluate(made.world, made.between);
  const all = { air, heardNear, heardFar, answers, summaries, outcome, findings };
  expect(structuredClone(all)).toEqual(all);
});
