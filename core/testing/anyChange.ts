import fc from "fast-check";
import { putPatch, removePatch, setPatch, type Patch, type Outsider, type Scan, type World } from "../plan";
import { reading } from "./valley";

const outsider: Omit<Outsider, "frequencyMHz"> = {
  ...{ id: "outsider", planId: "valley", name: "Outsider", latDeg: -1.02, lonDeg: 20.05, heightM: 20 },
  ...{ azimuthDeg: 0, antennaModelId: null, widthMHz: 20, eirpDbm: 36, timeShare: 0.5, notes: "" },
};
const scan: Scan = {
  ...{ id: "scan", planId: "valley", siteId: "west", headingDeg: 95, beamwidthDeg: 60, gainDbi: 12, polarization: "V" },
  ...{ scannedAt: "2026-03-01T00:00:00.000Z", source: "typed rows", binKHz: 1000 },
  frequenciesMHz: [5490, 5500, 5510],
  levelsDbm: [-70, -60, -72],
};

/** Any one change that can be kept of the world as it stands. */
export const anyChange = (world: World, first: World): fc.Arbitrary<readonly Patch[]> => {
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
    fc
      .constantFrom(5500, 5800)
      .map((frequencyMHz): Patch[] => [
        world.outsiders.has("outsider")
          ? removePatch("outsiders", "outsider")
          : putPatch("outsiders", { ...outsider, frequencyMHz }),
      ]),
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
