import { compareBands } from "#core/search";
import { expect, test } from "@jest/globals";
import { answerOf, isLinkServed } from "#core/outcome";
import { putPatch, checkPatches, withPatches, type Patch, type World } from "#core/plan";
import {
  ringPlaces,
  searchMoves,
  searchRelayPeaks,
  searchWaysOut,
  viewFromSite,
  viewFromSubscriber,
  WORK_EUR,
  type SearchAsk,
} from "#core/search";
import { inverseGeodesic } from "#core/geodesy";
import { radioIn, valley, valleySurface, type ValleyRows } from "#core/testing";
import { arraySurface, plainTerrain, readGround, sampleProfile, type Terrain } from "#core/terrain";

let count = 0;
const makeId = () => `new-${count++}`;
function finish<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
const ask = (rest: Partial<SearchAsk> = {}): SearchAsk => ({
  linkId: "bridge",
  moveAM: 0,
  moveBM: 0,
  mastM: 0,
  ...rest,
});
const heightOver = (terrain: Terrain) => (place: { latDeg: number; lonDeg: number }) => {
  const sample = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  readGround(terrain, place.latDeg, place.lonDeg, sample);
  return sample.groundAmslM;
};
const search = (made: ReturnType<typeof valley>, ridgeM: number, rest: Partial<SearchAsk> = {}) =>
  finish(searchWaysOut(made.world, ask(rest), heightOver(plainTerrain(valleySurface(ridgeM))), made.between, makeId));

/** A third site of the valley, its mast on the ground at a place. */
const third =
  (lonDeg: number, structureHeightM = 40) =>
  (rows: ValleyRows) =>
    void rows.sites.push({ ...rows.sites[1]!, id: "third", name: "third", lonDeg, structureHeightM, isFeed: false });

/** Every link that the patches make or change, answered in the plan under them. */
function servesAll(world: World, patches: Patch[], between: ReturnType<typeof valley>["between"]): boolean {
  const tried = withPatches(world, patches);
  const ids = patches.flatMap(({ kind, id, remove }) => (kind === "links" && !remove ? [id] : []));
  return (ids.length > 0 ? ids : ["bridge"]).every((id) => {
    const link = tried.links.get(id)!;
    return isLinkServed(tried, link, answerOf(tried, link, between));
  });
}

test("a low ridge is answered by height first; every way told holds when it is taken in hand", () => {
  const made = valley(13);
  const { ways, triedCount } = search(made, 13, { moveAM: 400, moveBM: 400 });
  expect(ways[0]!.kind).toBe("height");
  expect(triedCount).toBeGreaterThan(100);
  for (const way of ways) {
    expect(checkPatches(made.world, way.patches)).toEqual([]);
    expect(servesAll(made.world, way.patches, made.between)).toBe(true);
    const after = answerOf(withPatches(made.world, way.patches), made.world.links.get("bridge")!, made.between);
    if (way.kind !== "relaySite") expect(after.state).toBe(way.outcome.state);
  }
});

test("over other sites a relay is found exactly where trying them all finds one", () => {
  // A mast high on the ridge sees both ends; one down in the plain sees neither more than they see each other.
  for (const lonDeg of [20.03, 20.0549, 20.08]) {
    const made = valley(70, third(lonDeg));
    const found = search(made, 70).ways.filter(({ kind }) => kind === "relaySite");
    const legServed = (from: string) =>
      viewFromSite(made.world, made.world.sites.get(from)!, "sites", made.between, makeId).find(
        ({ id }) => id === "third",
      )!.served;
    expect([lonDeg, found.length > 0]).toEqual([lonDeg, legServed("west") && legServed("east")]);
  }
});

test("on high ground a relay is found where an exhaustive search of every cell finds one, and none where there is none", () => {
  const columns = 120;
  const rows = 60;
  const frame = { westDeg: 19.98, northDeg: -0.98, cellLonDeg: 0.00125, cellLatDeg: 0.0006, columns, rows };
  const terrainWith = (knollM: number) =>
    plainTerrain(
      arraySurface(
        frame,
        Float32Array.from({ length: columns * rows }, (_, i) => {
          const [x, y] = [i % columns, Math.floor(i / columns)];
          const ridge = 90 * Math.exp(-(((x - 60) / 3) ** 2));
          const knoll = knollM * Math.exp(-(((x - 60) / 2) ** 2) - ((y - 20) / 2) ** 2);
          return 10 + ridge + knoll;
        }),
      ),
    );
  for (const [knollM, mastM] of [
    [0, 12],
    [60, 1],
    [60, 12],
  ] as const) {
    const terrain = terrainWith(knollM);
    const between: ReturnType<typeof valley>["between"] = (from, to) => sampleProfile(terrain, from, to);
    const made = valley();
    const { world } = made;
    const { ways } = finish(
      searchRelayPeaks(world, world.links.get("bridge")!, mastM, heightOver(terrain), between, makeId),
    );
    let exists = false;
    for (let row = 4; row < rows - 4 && !exists; row++)
      for (let column = 20; column < columns - 20 && !exists; column++) {
        const place = {
          latDeg: frame.northDeg - (row + 0.5) * frame.cellLatDeg,
          lonDeg: frame.westDeg + (column + 0.5) * frame.cellLonDeg,
        };
        const site = { ...world.sites.get("east")!, ...place, id: "third", structureHeightM: mastM };
        const tried = withPatches(world, [putPatch("sites", site)]);
        const view = viewFromSite(tried, site, "sites", between, makeId);
        exists = view.every(({ served, state }) => served && state !== "blocked");
      }
    expect([knollM, mastM, ways.length > 0]).toEqual([knollM, mastM, exists]);
    for (const { patches } of ways) expect(servesAll(world, patches, between)).toBe(true);
  }
});

test("a move is told with its heat, never farther than asked, never at the cost of another link", () => {
  const made = valley(13);
  const { heat, ways } = finish(searchMoves(made.world, made.world.links.get("bridge")!, "b", 600, made.between));
  expect(heat.length).toBeGreaterThan(300);
  const east = made.world.sites.get("east")!;
  for (const point of heat) expect(inverseGeodesic(east, point).distanceM).toBeLessThan(601);
  for (const { patches } of ways) expect(servesAll(made.world, patches, made.between)).toBe(true);
  expect(ringPlaces(east, 600).length).toBe(heat.length);
});

test("bands stand best first, each with a reason in figures, and the best can be taken in hand", () => {
  const made = valley();
  const rows = compareBands(made.world, made.world.links.get("bridge")!, 50, made.between, makeId);
  expect(rows).toHaveLength(9);
  // What the rules close, or cap below the least power, comes after all that may be built.
  const isClosed = (reason: string) => !reason.startsWith("holds") && !reason.includes("short of");
  const grade = rows.map(({ result, reason }) =>
    result === null || isClosed(reason) ? 3 : !result.served ? 2 : !result.carriesDemand ? 1 : 0,
  );
  expect(grade.filter((one) => one < 2)).toEqual([...grade.filter((one) => one < 2)].sort());
  for (const { reason } of rows) expect(reason).not.toBe("");
  const best = rows[0]!;
  expect(best.result).toMatchObject({ served: true, carriesDemand: true });
  const after = answerOf(withPatches(made.world, best.patches), made.world.links.get("bridge")!, made.between);
  expect(after.path!.aToB.rateMbps).toBeCloseTo(best.result!.downMbps, 6);
  // Higher bands have smaller zones: more of theirs is free.
  const share = (band: string) => rows.find((row) => row.band === band)!.result!.zoneShare;
  expect(share("80 GHz")).toBeGreaterThan(share("5 GHz"));
  expect(rows.find(({ band }) => band === "60 GHz")!.reason).toContain("beyond the 3 km");
});

test("a sector that serves others is left as it is when one of its customers changes band", () => {
  const made = valley(0, (rows) => {
    rows.links.push({ ...rows.links[1]!, id: "other", bRadioId: "second" });
    rows.radios.push({ ...radioIn(rows, "farm-radio"), id: "second" });
  });
  const [best] = compareBands(made.world, made.world.links.get("access")!, 10, made.between, makeId);
  expect(best!.patches.some(({ id }) => id === "sector")).toBe(false);
});

test("from a site every subscriber is seen, near misses with what they lack; from a subscriber every site", () => {
  const made = valley(0, (rows) => {
    const farm = rows.subscribers[0]!;
    rows.subscribers.push({ ...farm, id: "low", name: "low", antennaHeightM: 1, maxHeightM: 9, lonDeg: 20.09 });
    rows.subscribers.push({ ...farm, id: "off", name: "off", latDeg: 10 });
  });
  const west = made.world.sites.get("west")!;
  const rows = viewFromSite(made.world, west, "subscribers", made.between, makeId);
  expect(rows.map(({ id }) => id)).toEqual(["farm", "low", "off"]);
  expect(rows[0]).toMatchObject({ state: "clear", served: true, missBy: 0 });
  expect(rows[1]!.lacks).toMatch(/m more at low/);
  expect(rows[2]).toMatchObject({ state: "unknown", lacks: "the terrain has a hole" });
  const back = viewFromSubscriber(made.world, made.world.subscribers.get("farm")!, made.between, makeId);
  expect(back.map(({ id }) => id).sort()).toEqual(["east", "west"]);
});

test("a path that cannot be answered is searched all the same, and nothing is made up for it", () => {
  const holed = valley(0, (rows) => void (rows.sites[1]!.lonDeg = 20.4));
  const { ways } = search(holed, 0, { moveBM: 300, mastM: 10 });
  for (const way of ways) expect(servesAll(holed.world, way.patches, holed.between)).toBe(true);
  const together = valley(0, (rows) => void (rows.sites[1]!.lonDeg = 20));
  expect(search(together, 0, { mastM: 10 }).ways.every(({ outcome }) => outcome.state !== "unknown")).toBe(true);
});

test("a link that works is offered nothing that makes it worse", () => {
  const made = valley();
  const now = answerOf(made.world, made.world.links.get("bridge")!, made.between);
  const margin = Math.min(now.path!.aToB.marginLeftDb, now.path!.bToA.marginLeftDb);
  for (const { outcome, kind } of search(made, 0, { moveAM: 300 }).ways) {
    expect(outcome.served).toBe(true);
    expect(outcome.marginDb).toBeGreaterThan(margin);
    expect(kind).not.toMatch(/relay/);
  }
});

test("ways stand by outcome, then by what kit and work cost together", () => {
  for (const ridgeM of [13, 70]) {
    const { ways } = search(valley(ridgeM, third(20.0549)), ridgeM, { moveBM: 300, mastM: 15 });
    const cost = ({ kind, costEur }: (typeof ways)[number]) => costEur + WORK_EUR[kind];
    const grade = ({ outcome }: (typeof ways)[number]) =>
      (outcome.served ? 0 : 4) + ["clear", "tight", "blocked"].indexOf(outcome.state);
    for (let i = 1; i < ways.length; i++) {
      const [before, here] = [ways[i - 1]!, ways[i]!];
      expect(grade(before)).toBeLessThanOrEqual(grade(here));
      if (grade(before) === grade(here)) expect(cost(before)).toBeLessThanOrEqual(cost(here) + 1e-9);
    }
    expect(new Set(ways.map(({ label }) => label)).size).toBe(ways.length);
  }
});

test("a relay over a site takes the old link and its radios away and says when no mount is free", () => {
  const made = valley(70, (rows) => {
    third(20.0549)(rows);
    rows.sites.at(-1)!.freeMounts = 0;
  });
  const relay = search(made, 70).ways.find(({ kind }) => kind === "relaySite")!;
  expect(relay.caution).toBe("third has no mount left");
  const after = withPatches(made.world, relay.patches);
  expect(after.links.has("bridge")).toBe(false);
  expect(after.radios.has("west-east")).toBe(false);
  const bridges = [...after.links.values()].filter(({ kind }) => kind === "bridge");
  expect(bridges).toHaveLength(2);
  const channels = bridges.map(({ aRadioId }) => after.radios.get(aRadioId)!.frequencyMHz);
  expect(Math.abs(channels[0]! - channels[1]!)).toBeGreaterThanOrEqual(60);
});
