import { expect, test } from "@jest/globals";
import { peakGainDbi } from "#core/antenna";
import { answerOf } from "#core/outcome";
import { attachToSite, bestSector, proposeAccess, proposeBridge } from "#core/propose";
import { inverseGeodesic } from "#core/geodesy";
import { checkPatches, withPatches, type Patch, type Link, type Radio, type World } from "#core/plan";
import { radioIn, valley, type ValleyRows } from "#core/testing";

let count = 0;
const makeId = () => `new-${count++}`;
/** The radios that patches put, with their channels. */
const radiosOf = (world: World, patches: Patch[]) => {
  const after = withPatches(world, patches);
  return patches.flatMap(({ kind, id, put }) => (kind === "radios" && put ? [after.radios.get(id)!] : []));
};
const linkOf = (patches: Patch[]) => patches.at(-1)!.put as Link;

/** The valley without anything on its masts. */
const bare = (change: (rows: ValleyRows) => void = () => undefined) =>
  valley(0, (rows) => {
    rows.radios = [];
    rows.links = [];
    change(rows);
  });
const bridge = (world: World, frequencyMHz?: number) =>
  proposeBridge(world, world.sites.get("west")!, world.sites.get("east")!, makeId, frequencyMHz);
const access = (world: World, siteId = "west", customerId = "farm") =>
  proposeAccess(world, world.sites.get(siteId)!, world.subscribers.get(customerId)!, makeId);

test("a first bridge: two radios alike on the tops of their masts, aimed at each other, within their caps, and it works", () => {
  const made = bare();
  const patches = bridge(made.world)!;
  const [a, b] = radiosOf(made.world, patches) as [Radio, Radio];
  expect([a.siteId, b.siteId, a.heightM, b.heightM]).toEqual(["west", "east", 40, 40]);
  expect([a.frequencyMHz, a.widthMHz, a.polarization]).toEqual([b.frequencyMHz, b.widthMHz, b.polarization]);
  expect([a.antennaModelId, a.radioModelId]).toEqual([b.antennaModelId, b.radioModelId]);
  expect([a.azimuthDeg, a.tiltDownDeg, a.name, b.name]).toEqual([null, null, "Bridge to east", "Bridge to west"]);
  expect(linkOf(patches)).toMatchObject({ kind: "bridge", state: "planned", aRadioId: a.id, bRadioId: b.id });
  expect(checkPatches(made.world, patches)).toEqual([]);
  const after = withPatches(made.world, patches);
  const { path } = answerOf(after, linkOf(patches), made.between);
  expect(Math.max(path!.aToB.overCapDb, path!.bToA.overCapDb)).toBe(0);
  expect(Math.min(path!.aToB.marginLeftDb, path!.bToA.marginLeftDb)).toBeGreaterThanOrEqual(
    made.world.plan.marginTargetDb,
  );
});

test("the cheapest antenna that reaches with a reserve is taken: a larger one the farther the masts stand apart", () => {
  const gainAt = (lonDeg: number) => {
    const { world } = bare((rows) => void (rows.sites[1]!.lonDeg = lonDeg));
    const [a] = radiosOf(world, bridge(world)!);
    return peakGainDbi(world.antennaModels.get(a!.antennaModelId)!, a!.frequencyMHz);
  };
  const gains = [20.01, 20.11, 20.4, 20.9].map(gainAt);
  for (let i = 1; i < gains.length; i++) expect(gains[i]!).toBeGreaterThanOrEqual(gains[i - 1]!);
  expect(gains.at(-1)!).toBeGreaterThan(gains[0]! + 6);
});

test("a bridge is proposed in the band that is asked for, and not where the library has no kit", () => {
  const { world } = bare();
  const [six] = radiosOf(world, bridge(world, 6175)!);
  expect(six!.frequencyMHz).toBeGreaterThan(5900);
  expect(bridge(world, 15_000)).toBeNull();
});

test("a customer is given to the sector that looks his way within 6 dB, on its channel and polarization", () => {
  const made = valley(
    0,
    (rows) => void Object.assign(radioIn(rows, "sector"), { polarization: "V", frequencyMHz: 5240 }),
  );
  const patches = access(made.world)!;
  expect(radiosOf(made.world, patches)).toHaveLength(1);
  expect(radiosOf(made.world, patches)[0]).toMatchObject({
    subscriberId: "farm",
    role: "subscriber",
    frequencyMHz: 5240,
    polarization: "V",
    heightM: 8,
    azimuthDeg: null,
  });
  expect(linkOf(patches)).toMatchObject({ kind: "access", aRadioId: "sector" });
});

test("a sector that looks away is left alone: a new one is turned to the customer on a channel of its own", () => {
  const made = valley(0, (rows) => void (radioIn(rows, "sector").azimuthDeg = 275));
  const farm = made.world.subscribers.get("farm")!;
  const west = made.world.sites.get("west")!;
  expect(bestSector(made.world, west, farm)).toBeNull();
  const [sector, client] = radiosOf(made.world, access(made.world)!) as [Radio, Radio];
  expect(sector).toMatchObject({ role: "sector", siteId: "west", heightM: 40, tiltDownDeg: 0 });
  expect(sector.azimuthDeg).toBe(Math.round(inverseGeodesic(west, farm).azimuthDeg));
  expect(client.frequencyMHz).toBe(sector.frequencyMHz);
  expect(Math.abs(sector.frequencyMHz - made.world.radios.get("sector")!.frequencyMHz)).toBeGreaterThanOrEqual(20);
});

test("of two sectors the one that sees the customer best serves him", () => {
  const { world } = valley(0, (rows) =>
    rows.radios.push({ ...radioIn(rows, "sector"), id: "better", azimuthDeg: 96, frequencyMHz: 5785 }),
  );
  const west = world.sites.get("west")!;
  const farm = world.subscribers.get("farm")!;
  const bearing = inverseGeodesic(west, farm).azimuthDeg;
  const nearer = Math.abs(bearing - 95) < Math.abs(bearing - 96) ? "sector" : "better";
  expect(bestSector(world, west, farm)!.id).toBe(nearer);
  expect(bestSector(world, world.sites.get("east")!, farm)).toBeNull();
});

test("a customer's antenna hangs no higher than his roof allows", () => {
  const { world } = valley(
    0,
    (rows) => void Object.assign(rows.subscribers[0]!, { antennaHeightM: 15, maxHeightM: 9 }),
  );
  expect(radiosOf(world, access(world)!)[0]!.heightM).toBe(9);
});

test("a customer who is served elsewhere moves to a site with the link and radio that they have", () => {
  const { world } = valley();
  const [site, farm] = [world.sites.get("east")!, world.subscribers.get("farm")!];
  const before = world.links.get("access")!;
  const moved = attachToSite(world, site, farm, makeId)!;
  const after = withPatches(world, moved.patches);
  expect(moved.linkId).toBe(before.id);
  expect(after.links.size).toBe(world.links.size);
  const link = after.links.get(before.id)!;
  expect(link).toMatchObject({ bRadioId: before.bRadioId, kind: "access", state: "planned" });
  expect(after.radios.get(link.aRadioId)).toMatchObject({ siteId: "east", role: "sector" });
  expect(after.radios.get(link.bRadioId)!.carrierId).toBe(after.radios.get(link.aRadioId)!.carrierId);
  expect(checkPatches(world, moved.patches)).toEqual([]);
});

test("a customer without a link gets one from the site's sector that looks there", () => {
  const { world } = bare();
  const first = access(world)!;
  const withSector = withPatches(world, first);
  const second = { ...withSector.subscribers.get("farm")!, id: "mill", name: "Mill" };
  const place = withPatches(withSector, [{ kind: "subscribers", id: "mill", put: second }]);
  const attached = attachToSite(place, place.sites.get("west")!, second, makeId)!;
  const link = withPatches(place, attached.patches).links.get(attached.linkId)!;
  expect(link.aRadioId).toBe(linkOf(first).aRadioId);
});
