import { libraryFor } from "../catalogue";
import {
  emptyRows,
  newPlan,
  withCarriers,
  worldOf,
  type Link,
  type Measurement,
  type PlanRows,
  type Radio,
  type RowsWithChannels,
  type Site,
  type Subscriber,
  type World,
  USUAL,
} from "../plan";
import { arraySurface, plainTerrain, sampleProfile, type Profile, type Surface, type Terrain } from "../terrain";

/** A small made-up plan for tests: flat ground at 10 m with one north–south ridge, two sites and a subscriber. */

const PLAN = newPlan({ id: "valley", name: "Valley", createdAt: "2026-01-01T00:00:00Z", rainRate001MmPerH: 40 });

/** The sector stands on the bridge's mast: far enough from its channel that neither hears the other. */
const ACCESS_MHZ = 5200;

const site = (id: string, lonDeg: number): Site => ({
  id,
  planId: "valley",
  name: id,
  latDeg: -1,
  lonDeg,
  structureKind: "mast",
  structureHeightM: 40,
  poleDiameterMm: 60,
  power: "mains",
  freeMounts: 3,
  isFeed: id === "west",
  feedMbps: id === "west" ? 80 : 0,
  access: "",
  terms: "",
  hazards: "",
  notes: "",
  ...USUAL.sites,
});
const subscriber: Subscriber = {
  id: "farm",
  planId: "valley",
  name: "farm",
  latDeg: -1.005,
  lonDeg: 20.06,
  mount: "roof",
  antennaHeightM: 8,
  maxHeightM: 12,
  status: "asked",
  demandMbps: 20,
  demandUpMbps: 5,
  tier: "",
  people: 3,
  behind: "none",
  notes: "",
};

/** A radio with its channel; its carrier is found when the plan is laid out. */
export const radio = (id: string, rest: Partial<Radio> = {}): Radio => ({
  id,
  planId: "valley",
  siteId: null,
  subscriberId: null,
  name: id,
  role: "bridge",
  radioModelId: "brisote-tramo-5",
  antennaModelId: "brisote-plato-5-30",
  heightM: 20,
  azimuthDeg: null,
  tiltDownDeg: null,
  bracketTurned: false,
  polarization: "HV",
  carrierId: id,
  frequencyMHz: 5800,
  widthMHz: 20,
  txPowerDbm: 20,
  cableLossDb: 0,
  interferenceDb: 0,
  ethernetM: 20,
  injector: "802.3at",
  address: "",
  ...USUAL.radios,
  ...rest,
});

/** Where the valley's ground lies. */
export const valleyFrame = {
  westDeg: 19.98,
  northDeg: -0.98,
  cellLonDeg: 0.0003,
  cellLatDeg: 0.0003,
  columns: 500,
  rows: 120,
};

/** Ground with a ridge `ridgeM` above the plain, about half-way between the sites. */
export function valleySurface(ridgeM: number, frame = valleyFrame): Surface {
  const { columns, rows } = frame;
  const ground = Float32Array.from(
    { length: columns * rows },
    (_, i) => 10 + ridgeM * Math.exp(-((((i % columns) - 250) / 12) ** 2)),
  );
  return arraySurface(frame, ground);
}

export interface Valley {
  rows: PlanRows;
  world: World;
  between: (from: { latDeg: number; lonDeg: number }, to: { latDeg: number; lonDeg: number }) => Profile;
}

/** The valley's rows while a test may still change them: radios carry their channels themselves. */
export type ValleyRows = Omit<RowsWithChannels, "radios"> & { radios: Radio[] };

/** Ground of each height once: property tests ask for it by the thousand. */
const terrains = new Map<number, Terrain>();

/** The plan with a bridge west – east and an access link west – farm; `change` alters rows before use. */
export function valley(ridgeM = 0, change: (rows: ValleyRows) => void = () => undefined): Valley {
  const link = (id: string, kind: Link["kind"], aRadioId: string, bRadioId: string): Link => ({
    id,
    planId: "valley",
    kind,
    aRadioId,
    bRadioId,
    state: "planned",
    foliageDepthM: 0,
    ...USUAL.links,
  });
  const loose: ValleyRows = {
    ...emptyRows({ ...PLAN }),
    sites: [site("west", 20), site("east", 20.11)],
    subscribers: [{ ...subscriber }],
    radios: [
      radio("west-east", { siteId: "west" }),
      radio("east-west", { siteId: "east" }),
      radio("sector", {
        siteId: "west",
        role: "sector",
        radioModelId: "brisote-vela-5",
        antennaModelId: "brisote-arco-5-17-90",
        azimuthDeg: 95,
        tiltDownDeg: 0,
        heightM: 30,
        frequencyMHz: ACCESS_MHZ,
        txPowerDbm: 19,
      }),
      radio("farm-radio", {
        subscriberId: "farm",
        role: "subscriber",
        radioModelId: "brisote-vela-5c",
        antennaModelId: "brisote-losa-5-23",
        heightM: 8,
        frequencyMHz: ACCESS_MHZ,
        txPowerDbm: 13,
        injector: "passive24",
      }),
    ],
    links: [link("bridge", "bridge", "west-east", "east-west"), link("access", "access", "sector", "farm-radio")],
    equipment: libraryFor("valley"),
  };
  change(loose);
  const rows = withCarriers(loose);
  const terrain = terrains.get(ridgeM) ?? plainTerrain(valleySurface(ridgeM));
  terrains.set(ridgeM, terrain);
  return { rows, world: worldOf(rows), between: (from, to) => sampleProfile(terrain, from, to) };
}

export function radioIn(rows: ValleyRows, id: string): Radio {
  return rows.radios.find((one) => one.id === id)!;
}

/** Both radios of the valley's bridge, changed alike. */
export const onBridge =
  (rest: Partial<Radio>) =>
  (rows: ValleyRows): void => {
    for (const id of ["west-east", "east-west"]) Object.assign(radioIn(rows, id), rest);
  };

/** What makes a bridge one of 80 GHz. */
export const EIGHTY_GHZ = {
  radioModelId: "kestrane-salto-80",
  antennaModelId: "kestrane-plato-80-50",
  frequencyMHz: 73_500,
  widthMHz: 500,
  polarization: "V",
  txPowerDbm: 10,
} as const satisfies Partial<Radio>;

/** A reading of the valley's bridge, evenly on two chains and where −50 dBm was predicted unless told otherwise. */
export function reading(aTotalDbm: number, bTotalDbm: number, rest: Partial<Measurement> = {}): Measurement {
  const [chainA, chainB] = [aTotalDbm, bTotalDbm].map((dbm) => dbm - 10 * Math.log10(2)) as [number, number];
  return {
    id: "m",
    planId: "valley",
    linkId: "bridge",
    measuredAt: "2026-02-01T00:00:00Z",
    measuredBy: "crew",
    levelA0Dbm: chainA,
    levelA1Dbm: chainA,
    levelB0Dbm: chainB,
    levelB1Dbm: chainB,
    noiseADbm: null,
    noiseBDbm: null,
    downMbps: null,
    upMbps: null,
    expectedADbm: -50,
    expectedBDbm: -50,
    ...USUAL.measurements,
    notes: "",
    ...rest,
  };
}
