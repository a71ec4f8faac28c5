import { libraryFor } from "#core/catalogue";
import { answerOf, isLinkServed } from "#core/outcome";
import { bestSector } from "#core/propose";
import { faultsOf } from "#core/findings";
import { powerWithinCapDbm } from "#core/kit";
import { weakestMarginDb } from "#core/link";
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
  USUAL,
} from "#core/plan";
import { plainTerrain, sampleProfile, type Surface } from "#core/terrain";
import { DEMO_PLAN_ID, demoSubscribers, OUTSIDERS, SITES, type Cluster } from "./places";
import { withCrews } from "./crews";
import { withAlarms } from "./watch";

const PLAN = newPlan({
  id: DEMO_PLAN_ID,
  name: "Isla Orvena",
  createdAt: "2026-11-02T09:00:00.000Z",
  isDemo: true,
  // The island's own gauge knows better than its latitude.
  rainRate001MmPerH: 32,
});

let addressCount = 10;
function radio(
  id: string,
  siteId: string,
  rest: Partial<Radio> &
    Pick<
      Radio,
      "name" | "role" | "radioModelId" | "antennaModelId" | "heightM" | "frequencyMHz" | "widthMHz" | "txPowerDbm"
    >,
): Radio {
  return {
    id,
    planId: DEMO_PLAN_ID,
    siteId,
    subscriberId: null,
    azimuthDeg: null,
    tiltDownDeg: null,
    bracketTurned: false,
    polarization: "HV",
    carrierId: id,
    cableLossDb: 0.5,
    interferenceDb: 2,
    ethernetM: 18,
    injector: rest.radioModelId.includes("salto-80") ? "dc48" : "802.3at",
    address: `10.44.0.${addressCount++}`,
    ...USUAL.radios,
    cableKind: rest.radioModelId.includes("salto-80") ? "fibre" : "cat5e",
    ...rest,
  };
}

const vela = { role: "sector", radioModelId: "brisote-vela-5", widthMHz: 20, jumperM: 0.6 } as const;
const tramo = { role: "bridge", radioModelId: "brisote-tramo-5" } as const;

/** Sectors as built, with what was got wrong on purpose. */
function sectors(): Radio[] {
  return [
    // Ridge and quarry face each other on one channel.
    radio("ap-ridge-e", "site-ridge", {
      ...vela,
      name: "Ridge east",
      antennaModelId: "brisote-arco-5-17-90",
      heightM: 7,
      azimuthDeg: 80,
      tiltDownDeg: 2,
      frequencyMHz: 5180,
      txPowerDbm: 19,
    }),
    radio("ap-ridge-w", "site-ridge", {
      ...vela,
      name: "Ridge west",
      antennaModelId: "brisote-arco-5-16-120",
      heightM: 7,
      azimuthDeg: 290,
      tiltDownDeg: 8,
      frequencyMHz: 5805,
      txPowerDbm: 19,
    }),
    radio("ap-ridge-9", "site-ridge", {
      name: "Ridge wood",
      role: "sector",
      radioModelId: "halvorn-duna-9",
      antennaModelId: "halvorn-arco-9-13",
      heightM: 8,
      azimuthDeg: 335,
      tiltDownDeg: 5,
      frequencyMHz: 915,
      widthMHz: 10,
      txPowerDbm: 23,
      injector: "passive24",
    }),
    radio("ap-quarry-w", "site-quarry", {
      ...vela,
      name: "Quarry west",
      antennaModelId: "brisote-arco-5-17-90",
      heightM: 20,
      azimuthDeg: 260,
      tiltDownDeg: 2,
      frequencyMHz: 5180,
      txPowerDbm: 16,
    }),
    radio("ap-tower-s", "site-tower", {
      ...vela,
      name: "Tower south",
      antennaModelId: "brisote-arco-5-16-120",
      heightM: 23,
      azimuthDeg: 205,
      tiltDownDeg: 2,
      frequencyMHz: 5240,
      txPowerDbm: 19,
      ethernetM: 112,
    }),
    radio("ap-light-e", "site-lighthouse", {
      ...vela,
      name: "Lighthouse east",
      antennaModelId: "brisote-arco-5-19-60",
      heightM: 15,
      azimuthDeg: 92,
      tiltDownDeg: 0,
      frequencyMHz: 5220,
      txPowerDbm: 17,
    }),
    radio("ap-school", "site-school", {
      ...vela,
      name: "School east",
      antennaModelId: "brisote-arco-5-16-120",
      heightM: 22,
      azimuthDeg: 75,
      tiltDownDeg: 0,
      frequencyMHz: 5735,
      txPowerDbm: 19,
      injector: "passive24",
    }),
    radio("ap-harbour", "site-harbour", {
      ...vela,
      name: "Harbour west",
      antennaModelId: "brisote-arco-5-17-90",
      heightM: 24,
      azimuthDeg: 305,
      tiltDownDeg: 0,
      frequencyMHz: 5665,
      txPowerDbm: 12,
    }),
  ];
}

interface Bridge {
  id: string;
  ends: [Radio, Radio];
}

function bridges(): Bridge[] {
  const long = { ...tramo, antennaModelId: "brisote-plato-5-34", frequencyMHz: 5780, widthMHz: 40, txPowerDbm: 24 };
  const medium = { ...tramo, antennaModelId: "brisote-plato-5-30", frequencyMHz: 5840, widthMHz: 10, txPowerDbm: 24 };
  const short = { ...tramo, antennaModelId: "brisote-plato-5-25", frequencyMHz: 5600, widthMHz: 40, txPowerDbm: 22 };
  const town = {
    role: "bridge",
    radioModelId: "kestrane-salto-80",
    antennaModelId: "kestrane-plato-80-44",
    frequencyMHz: 73500,
    widthMHz: 500,
    txPowerDbm: 15,
    polarization: "V",
  } as const;
  return [
    {
      id: "link-long",
      ends: [
        radio("br-quarry-light", "site-quarry", { ...long, name: "Quarry to lighthouse", heightM: 22 }),
        radio("br-light-quarry", "site-lighthouse", { ...long, name: "Lighthouse to quarry", heightM: 9 }),
      ],
    },
    {
      id: "link-medium",
      ends: [
        radio("br-harbour-ridge", "site-harbour", { ...medium, name: "Harbour to ridge", heightM: 20 }),
        radio("br-ridge-harbour", "site-ridge", { ...medium, name: "Ridge to harbour", heightM: 9 }),
      ],
    },
    {
      id: "link-short",
      ends: [
        radio("br-harbour-silo", "site-harbour", { ...short, name: "Harbour to silo", heightM: 27 }),
        radio("br-silo-harbour", "site-silo", { ...short, name: "Silo to harbour", heightM: 27 }),
      ],
    },
    {
      id: "link-town",
      ends: [
        radio("br-harbour-school", "site-harbour", { ...town, name: "Harbour to school", heightM: 30 }),
        radio("br-school-harbour", "site-school", { ...town, name: "School to harbour", heightM: 24 }),
      ],
    },
  ];
}

/** Clusters that are already customers, and from where; the others still ask. */
const SERVED_FROM: Partial<Record<Cluster, string[]>> = {
  town: ["site-school", "site-harbour"],
  north: ["site-tower"],
  west: ["site-lighthouse", "site-ridge"],
  northeast: ["site-quarry"],
};
const SERVED_SCHOOLS: Record<string, string[]> = {
  "North school": ["site-tower"],
  "Harbour school annex": ["site-school"],
};

/** The plan while it is laid out: its radios still carry their channels themselves. */
type DemoRows = Omit<RowsWithChannels, "radios"> & { radios: Radio[] };

/** The demo plan: what works on this very terrain, and the faults planted in it. */
export function demoPlan(surface: Surface): PlanRows {
  addressCount = 10;
  const subscribers = demoSubscribers();
  const rows: DemoRows = {
    ...emptyRows(PLAN),
    sites: SITES,
    outsiders: OUTSIDERS,
    subscribers: subscribers.map(({ row }) => row),
    radios: sectors(),
    equipment: libraryFor(DEMO_PLAN_ID),
  };
  for (const { id, ends } of bridges()) {
    rows.radios.push(...ends);
    rows.links.push(link(id, "bridge", ends[0].id, ends[1].id));
  }
  const terrain = plainTerrain(surface);
  const between = (from: Parameters<typeof sampleProfile>[1], to: Parameters<typeof sampleProfile>[2]) =>
    sampleProfile(terrain, from, to);
  for (const { cluster, row } of subscribers) {
    const choices = (SERVED_FROM[cluster] ?? SERVED_SCHOOLS[row.name] ?? []).flatMap((siteId) =>
      [row.antennaHeightM, (row.antennaHeightM + row.maxHeightM) / 2, row.maxHeightM].map((heightM) => ({
        siteId,
        heightM,
      })),
    );
    for (const { siteId, heightM } of choices) {
      const world = worldOf(withCarriers(rows));
      const sector = bestSector(world, world.sites.get(siteId)!, row);
      if (!sector) continue;
      const client = clientRadio(
        row.id,
        row.name,
        heightM,
        sector,
        row.people >= 40 ? "brisote-plato-5-25" : "brisote-losa-5-23",
      );
      client.txPowerDbm = powerWithinCapDbm(
        world,
        {
          radio: client,
          model: world.radioModels.get(client.radioModelId)!,
          antenna: world.antennaModels.get(client.antennaModelId)!,
        },
        "ptmp",
      );
      const access = link(`link-${row.id}`, "access", sector.id, client.id);
      const tried = worldOf(withCarriers({ ...rows, radios: [...rows.radios, client] }));
      // The two sectors that face each other are got wrong on purpose: their customers have them to bear.
      const faults = faultsOf(tried, access, answerOf(tried, access, between), null);
      if (faults.some(({ check }) => check !== "ownNoise")) continue;
      rows.radios.push(client);
      rows.links.push(access);
      break;
    }
  }
  plantFaults(rows, subscribers, between);
  return withAlarms(withCrews(withCarriers(rows)));
}

function clientRadio(
  subscriberId: string,
  name: string,
  heightM: number,
  sector: Radio,
  antennaModelId: string,
): Radio {
  return radio(`cpe-${subscriberId}`, "", {
    name: `${name} radio`,
    role: "subscriber",
    radioModelId: sector.frequencyMHz < 1000 ? "halvorn-duna-9c" : "brisote-vela-5c",
    antennaModelId,
    heightM,
    frequencyMHz: sector.frequencyMHz,
    widthMHz: sector.widthMHz,
    txPowerDbm: 10,
    polarization: sector.polarization,
    cableLossDb: 0,
    injector: "passive24",
    siteId: null,
    subscriberId,
  });
}

function link(id: string, kind: Link["kind"], aRadioId: string, bRadioId: string): Link {
  return {
    id,
    planId: DEMO_PLAN_ID,
    kind,
    aRadioId,
    bRadioId,
    state: "planned",
    foliageDepthM: null,
    ...USUAL.links,
  };
}

/** What was got wrong on purpose, so that the first screen has something to say. */
function plantFaults(
  rows: DemoRows,
  subscribers: ReturnType<typeof demoSubscribers>,
  between: Parameters<typeof answerOf>[2],
): void {
  const byName = (name: string) => subscribers.find(({ row }) => row.name === name)!.row;
  const radioOf = (id: string) => rows.radios.find((candidate) => candidate.id === id)!;
  const connect = (subscriberId: string, name: string, heightM: number, sectorId: string, antennaModelId: string) => {
    const client = clientRadio(subscriberId, name, heightM, radioOf(sectorId), antennaModelId);
    rows.radios.push(client);
    rows.links.push(link(`link-${subscriberId}`, "access", sectorId, client.id));
    return client;
  };

  // Blocked: a house behind the spine, put on the quarry although the water tower sees it.
  const hidden = subscribers.filter(({ cluster }) => cluster === "hidden").map(({ row }) => row);
  const seen = hidden.find((row) => {
    const client = {
      ...clientRadio(row.id, row.name, row.antennaHeightM, radioOf("ap-tower-s"), "brisote-losa-5-23"),
      txPowerDbm: 13,
    };
    const tried = worldOf(withCarriers({ ...rows, radios: [...rows.radios, client] }));
    const access = link("try", "access", "ap-tower-s", client.id);
    const answer = answerOf(tried, access, between);
    return isLinkServed(tried, access, answer) && answer.state === "clear";
  });
  const blocked = seen ?? hidden[0]!;
  connect(blocked.id, blocked.name, blocked.antennaHeightM, "ap-quarry-w", "brisote-losa-5-23").txPowerDbm = 13;

  // The dairy lies so far below the ridge that its panel's bracket does not reach up to it.
  const dairy = byName("Goat dairy");
  connect(dairy.id, dairy.name, dairy.antennaHeightM, "ap-ridge-e", "brisote-losa-5-23").txPowerDbm = 13;

  // The bridge to the ridge was narrowed to spare spectrum when it fed the dairy alone; two more houses are too much for it.
  for (const name of ["Casa Brazobra", "Casa Belri"]) {
    const house = byName(name);
    connect(house.id, house.name, house.maxHeightM, "ap-ridge-9", "halvorn-losa-9-11").txPowerDbm = 13;
  }

  // One address twice; one subscriber whose polarization was left at V where its sector stands on both.
  const clients = rows.radios.filter((candidate) => candidate.role === "subscriber" && candidate.siteId === null);
  clients[1]!.address = clients[0]!.address;
  // Two pairs of bridges came out of their boxes alike, and nobody has given them addresses of their own.
  for (const [near, far] of [
    ["br-quarry-light", "br-light-quarry"],
    ["br-harbour-silo", "br-silo-harbour"],
  ] as const) {
    radioOf(near).address = "192.168.1.20";
    radioOf(far).address = "192.168.1.21";
  }
  // The school's sector was updated, two of its customers were not.
  const ofSchool = rows.links.filter(({ aRadioId }) => aRadioId === "ap-school").map(({ bRadioId }) => bRadioId);
  radioOf("ap-school").firmware = "4.2.1";
  ofSchool.forEach((id, i) => (radioOf(id).firmware = i < 2 ? "4.1.0" : "4.2.1"));
  const planted = worldOf(withCarriers(rows));
  const strongest = rows.links
    .filter((candidate) => candidate.aRadioId === "ap-tower-s")
    .map((candidate) => ({ candidate, marginDb: weakestMarginDb(answerOf(planted, candidate, between)) ?? -Infinity }))
    .sort((x, y) => y.marginDb - x.marginDb)[0];
  radioOf(strongest!.candidate.bRadioId).polarization = "V";

  const linked = new Set(rows.radios.map(({ subscriberId }) => subscriberId));
  rows.subscribers.forEach((row, i) => {
    row.status = linked.has(row.id) ? "planned" : i % 5 === 0 ? "declined" : i % 2 === 0 ? "surveyed" : "asked";
  });

  // The medium bridge was locked on a side lobe: 11 dB under the prediction at both ends.
  rows.measurements.push(sideLobeReading(rows, between));
  rows.links.find((candidate) => candidate.id === "link-medium")!.state = "doubtful";
  // Of the feed's rate the short bridge needs only what the school wants.
  Object.assign(
    rows.links.find((candidate) => candidate.id === "link-short")!,
    { mustDownMbps: 60, mustUpMbps: 20 },
  );
}

function sideLobeReading(rows: DemoRows, between: Parameters<typeof answerOf>[2]): Measurement {
  const world = worldOf(withCarriers(rows));
  const answer = answerOf(world, world.links.get("link-medium")!, between);
  if (!answer.path) throw new Error("the medium bridge of the demo has no answer");
  const round = (value: number) => Math.round(value * 10) / 10;
  const expectedADbm = round(answer.path.bToA.totalLevelDbm);
  const expectedBDbm = round(answer.path.aToB.totalLevelDbm);
  const perChain = 10 * Math.log10(2);
  return {
    id: "reading-medium-1",
    planId: DEMO_PLAN_ID,
    linkId: "link-medium",
    measuredAt: "2026-11-12T15:40:00.000Z",
    measuredBy: "Crew Orvena",
    levelA0Dbm: round(expectedADbm - 11 - perChain),
    levelA1Dbm: round(expectedADbm - 11.2 - perChain),
    levelB0Dbm: round(expectedBDbm - 10.8 - perChain),
    levelB1Dbm: round(expectedBDbm - 11 - perChain),
    noiseADbm: -94,
    noiseBDbm: -95,
    downMbps: 38,
    upMbps: 36,
    expectedADbm,
    expectedBDbm,
    ...USUAL.measurements,
    expectedDownMbps: round(answer.path.aToB.rateMbps),
    expectedUpMbps: round(answer.path.bToA.rateMbps),
    expectedNoiseADbm: round(answer.path.bToA.noiseDbm),
    expectedNoiseBDbm: round(answer.path.aToB.noiseDbm),
    ...{ floorDbm: world.plan.proofFloorDbm, deviationDb: world.plan.proofDeviationDb },
    notes: "Stable since locking. Wind 20 km/h.",
  };
}
