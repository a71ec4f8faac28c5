import { type Outsider, type Site, type Subscriber, USUAL } from "#core/plan";
import { islandPlace } from "./island";
import { seededRandom } from "./random";

export const DEMO_PLAN_ID = "isla-orvena";

type Usual = "feedMbps" | "access" | "terms" | "hazards" | keyof typeof USUAL.sites;

function site(
  id: string,
  name: string,
  km: [number, number],
  rest: Omit<Site, "id" | "name" | "planId" | "latDeg" | "lonDeg" | Usual> & Partial<Pick<Site, Usual>>,
): Site {
  const network = { subnet: "10.44.0.0/24", gateway: "10.44.0.1" };
  const usual = { feedMbps: 0, access: "", terms: "", hazards: "", ...USUAL.sites, ...network };
  return { id: `site-${id}`, planId: DEMO_PLAN_ID, name, ...islandPlace(...km), ...usual, ...rest };
}

/** The seven sites of Orvena Común. */
export const SITES: Site[] = [
  site("harbour", "Harbour hut", [13.6, 2.7], {
    structureKind: "hut with lattice mast",
    structureHeightM: 30,
    poleDiameterMm: 60,
    power: "mains",
    freeMounts: 7,
    isFeed: true,
    feedMbps: 2000,
    upsWh: 1200,
    switchPartId: "tornel-nudo-8-at",
    access: "Quay road, key at the harbour office.",
    hazards: "Overhead line 12 m east of the mast.",
    notes: "The submarine feed lands here.",
  }),
  site("ridge", "Ridge hut", [7.1, 4.78], {
    structureKind: "hut with mast",
    structureHeightM: 9,
    poleDiameterMm: 48,
    power: "solar",
    // Enough for the bridge and one sector, as the hut began; three sectors are too much for it in June.
    panelW: 700,
    batteryV: 24,
    batteryAh: 600,
    freeMounts: 6,
    isFeed: false,
    switchPartId: "tornel-nudo-6-dc",
    notes: "48 V DC from panels; no road in winter.",
  }),
  site("tower", "North water tower", [11.5, 10.6], {
    structureKind: "water tower",
    structureHeightM: 24,
    poleDiameterMm: 90,
    power: "mains",
    freeMounts: 5,
    isFeed: true,
    notes: "Fibre of the water board ends here.",
  }),
  site("lighthouse", "Lighthouse", [0.95, 5.3], {
    structureKind: "lighthouse gallery",
    structureHeightM: 18,
    poleDiameterMm: 60,
    power: "mains",
    freeMounts: 4,
    isFeed: false,
    access: "By boat or the cape track; 84 steps.",
    terms: "One link for the keeper in exchange.",
    hazards: "Open gallery: fall protection. The lamp turns.",
    notes: "Gallery rail at 9 m; a pole may rise from it.",
  }),
  site("quarry", "Quarry mast", [16.5, 7.9], {
    structureKind: "lattice mast",
    structureHeightM: 24,
    poleDiameterMm: 60,
    power: "mains",
    // A slip of the finger: the gateway lies in another network.
    gateway: "10.45.0.1",
    freeMounts: 6,
    isFeed: true,
    notes: "Fibre along the quarry road. Blasting on weekdays until noon.",
  }),
  site("silo", "East silo", [15.3, 5.4], {
    structureKind: "silo",
    structureHeightM: 28,
    poleDiameterMm: 48,
    power: "mains",
    freeMounts: 4,
    isFeed: false,
    notes: "",
  }),
  site("school", "School roof", [12.5, 3.35], {
    structureKind: "bell frame on a flat roof",
    structureHeightM: 24,
    poleDiameterMm: 48,
    power: "mains",
    freeMounts: 4,
    isFeed: false,
    notes: "Access outside lessons only.",
  }),
];

export type Cluster = "town" | "glass" | "north" | "west" | "northeast" | "plain" | "wood" | "hidden" | "single";

interface DemoSubscriber {
  cluster: Cluster;
  row: Subscriber;
}

const SYLLABLES = [
  "bel",
  "tor",
  "mira",
  "ve",
  "lan",
  "os",
  "quel",
  "da",
  "ri",
  "fon",
  "sa",
  "mur",
  "en",
  "to",
  "bra",
  "lu",
  "zo",
  "gal",
  "pen",
  "ira",
];

/** Made-up family names from syllables, none twice. */
function* familyNames(random: () => number): Generator<string> {
  const used = new Set<string>();
  for (;;) {
    const count = random() < 0.5 ? 2 : 3;
    let name = "";
    for (let i = 0; i < count; i++) name += SYLLABLES[Math.floor(random() * SYLLABLES.length)]!;
    if (used.has(name)) continue;
    used.add(name);
    yield name[0]!.toUpperCase() + name.slice(1);
  }
}

interface ClusterShape {
  cluster: Cluster;
  count: number;
  centreKm: [number, number];
  radiusKm: number;
  antennaM: number;
  maxM: number;
  demandMbps: number;
  demandUpMbps?: number;
}

const CLUSTERS: ClusterShape[] = [
  { cluster: "town", count: 17, centreKm: [12.85, 3.3], radiusKm: 0.7, antennaM: 12, maxM: 16, demandMbps: 30 },
  { cluster: "north", count: 9, centreKm: [11.3, 10.2], radiusKm: 0.7, antennaM: 7, maxM: 12, demandMbps: 41 },
  {
    cluster: "west",
    count: 8,
    centreKm: [4.3, 5.1],
    radiusKm: 1,
    antennaM: 9,
    maxM: 12,
    demandMbps: 10,
    demandUpMbps: 3,
  },
  {
    cluster: "northeast",
    count: 5,
    centreKm: [14.6, 8.7],
    radiusKm: 0.6,
    antennaM: 6,
    maxM: 12,
    demandMbps: 15,
    demandUpMbps: 2,
  },
  { cluster: "wood", count: 4, centreKm: [5.3, 7.7], radiusKm: 0.55, antennaM: 6, maxM: 10, demandMbps: 10 },
  { cluster: "hidden", count: 6, centreKm: [8.1, 9.3], radiusKm: 0.6, antennaM: 6, maxM: 12, demandMbps: 15 },
];

/** About sixty subscribers, clustered as people live. */
export function demoSubscribers(): DemoSubscriber[] {
  const random = seededRandom(2026);
  const names = familyNames(random);
  const list: DemoSubscriber[] = [];
  const add = (cluster: Cluster, name: string, km: [number, number], rest: Partial<Subscriber>) => {
    const id = `sub-${String(list.length + 1).padStart(2, "0")}`;
    const row: Subscriber = {
      id,
      planId: DEMO_PLAN_ID,
      name,
      ...islandPlace(...km),
      mount: "roof",
      antennaHeightM: 6,
      maxHeightM: 12,
      status: "asked",
      demandMbps: 20,
      demandUpMbps: 5,
      tier: "",
      people: 1 + Math.floor(random() * 5),
      behind: "none",
      notes: "",
      ...rest,
    };
    list.push({ cluster, row });
  };
  for (const shape of CLUSTERS) {
    for (let i = 0; i < shape.count; i++) {
      const angle = random() * 2 * Math.PI;
      const reach = shape.radiusKm * Math.sqrt(random());
      const km: [number, number] = [
        shape.centreKm[0] + reach * Math.cos(angle),
        shape.centreKm[1] + reach * Math.sin(angle),
      ];
      add(shape.cluster, `Casa ${names.next().value}`, km, {
        antennaHeightM: shape.antennaM,
        maxHeightM: shape.maxM,
        demandMbps: shape.demandMbps,
        ...(shape.demandUpMbps === undefined ? {} : { demandUpMbps: shape.demandUpMbps }),
        mount: random() < 0.7 ? "roof" : "pole",
      });
    }
  }
  // Seven farms in one arc of the plain, 1 to 2.2 km north-west of the silo.
  for (let i = 0; i < 7; i++) {
    const bearing = ((292 + i * 7 + random() * 4) * Math.PI) / 180;
    const reach = 1 + random() * 1.2;
    add("plain", `Finca ${names.next().value}`, [15.3 + reach * Math.sin(bearing), 5.4 + reach * Math.cos(bearing)], {
      antennaHeightM: 6,
      maxHeightM: 12,
    });
  }
  for (const km of [
    [12.75, 3.6],
    [12.9, 2.75],
  ] as [number, number][]) {
    add("glass", `Piso ${names.next().value}`, km, {
      mount: "window",
      antennaHeightM: 8,
      maxHeightM: 9,
      behind: km[1] > 3 ? "thermally_efficient" : "traditional",
      people: 2,
    });
  }
  add("single", "Fish farm", [9.0, 2.5], {
    mount: "pole",
    antennaHeightM: 6,
    maxHeightM: 10,
    people: 9,
    demandMbps: 25,
    notes: "Floating pontoon store ashore; salt spray.",
  });
  add("single", "Clinic", [13.2, 3.5], { antennaHeightM: 12, maxHeightM: 16, people: 40, demandMbps: 100 });
  add("single", "North school", [11.9, 10.1], { antennaHeightM: 9, maxHeightM: 12, people: 60, demandMbps: 100 });
  add("single", "Harbour school annex", [12.7, 2.9], {
    antennaHeightM: 12,
    maxHeightM: 15,
    people: 85,
    demandMbps: 100,
  });
  add("single", "Goat dairy", [7.486, 5.24], {
    mount: "pole",
    antennaHeightM: 5,
    maxHeightM: 9,
    people: 4,
    notes: "Close under the ridge hut.",
  });
  return list;
}

/** Somebody else's link that everybody at the harbour knows of. */
export const OUTSIDERS: Outsider[] = [
  {
    ...{ id: "out-cannery", planId: DEMO_PLAN_ID, name: "Cannery link", ...islandPlace(15.1, 3.4), heightM: 14 },
    ...{ azimuthDeg: 250, antennaModelId: "brisote-losa-5-23", frequencyMHz: 5500, widthMHz: 40, eirpDbm: 33 },
    ...{ timeShare: 0.6, notes: "From the cannery's roof to its office in town; its owner told the channel." },
  },
];
