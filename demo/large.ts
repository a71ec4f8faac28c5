import { libraryFor } from "#core/catalogue";
import {
  emptyRows,
  newPlan,
  withCarriers,
  type Link,
  type PlanRows,
  type Radio,
  type Site,
  type Subscriber,
  USUAL,
} from "#core/plan";
import { groundAt, type Surface } from "#core/terrain";
import { ISLAND_KM, islandPlace, islandSurface } from "./island";
import { seededRandom } from "./random";

const SEED = 61;
const SITES = 20;
const SECTORS_PER_SITE = 3;
const CLIENTS_PER_SECTOR = 40;
/** Channels of 20 MHz that the sectors share. */
const CHANNELS = 11;
const FIRST_MHZ = 5500;
const SUBSCRIBERS = 10_000;
const VILLAGES = 90;

const PLAN = newPlan({
  id: "large-sibling",
  name: "Isla Mayor",
  createdAt: "2026-11-02T09:00:00.000Z",
});

/**
 * The demo's large sibling, for load tests and benchmarks: the same generator with another seed and finer cells, 60 sectors on
 * 20 sites, 10 000 subscribers in villages, the nearest of them linked as far as a sector takes clients: 40, or as many as are
 * asked for.
 */
export function largeSibling(clientsPerSector = CLIENTS_PER_SECTOR): { rows: PlanRows; surface: Surface } {
  const surface = islandSurface(SEED, 2);
  const random = seededRandom(SEED);
  const onLand = (): [number, number] => {
    for (;;) {
      const km: [number, number] = [random() * ISLAND_KM.east, random() * ISLAND_KM.north];
      const { latDeg, lonDeg } = islandPlace(...km);
      if (groundAt(surface, latDeg, lonDeg) > 3) return km;
    }
  };
  const planId = PLAN.id;
  const sites = Array.from({ length: SITES }, (_, i): Site => ({
    id: `site-${i}`,
    planId,
    name: `Mast ${i + 1}`,
    ...islandPlace(...onLand()),
    structureKind: "lattice mast",
    structureHeightM: 24,
    poleDiameterMm: 60,
    power: "mains",
    freeMounts: 6,
    isFeed: i === 0,
    feedMbps: i === 0 ? 10_000 : 0,
    access: "",
    terms: "",
    hazards: "",
    notes: "",
    ...USUAL.sites,
  }));
  const villages = Array.from({ length: VILLAGES }, onLand);
  const subscribers = Array.from({ length: SUBSCRIBERS }, (_, i): Subscriber => {
    const [east, north] = villages[Math.floor(random() ** 1.6 * VILLAGES)]!;
    const angle = random() * 2 * Math.PI;
    const reach = 0.9 * Math.sqrt(random());
    return {
      id: `sub-${i}`,
      planId,
      name: `House ${i + 1}`,
      ...islandPlace(east + reach * Math.cos(angle), north + reach * Math.sin(angle)),
      mount: "roof",
      antennaHeightM: 6,
      maxHeightM: 10,
      status: "asked",
      demandMbps: 20,
      demandUpMbps: 5,
      tier: "",
      people: 1 + Math.floor(random() * 5),
      behind: "none",
      notes: "",
    };
  });
  const radio = (id: string, name: string, rest: Partial<Radio>): Radio => ({
    id,
    planId,
    siteId: null,
    subscriberId: null,
    name,
    role: "sector",
    radioModelId: "brisote-vela-5",
    antennaModelId: "brisote-arco-5-17-90",
    heightM: 20,
    azimuthDeg: null,
    tiltDownDeg: null,
    bracketTurned: false,
    polarization: "HV",
    carrierId: id,
    frequencyMHz: 5500,
    widthMHz: 20,
    txPowerDbm: 13,
    cableLossDb: 0.5,
    interferenceDb: 2,
    ethernetM: 18,
    injector: "802.3at",
    ...USUAL.radios,
    address: "",
    ...rest,
  });
  const radios: Radio[] = [];
  const links: Link[] = [];
  const free = new Set(subscribers);
  for (const [at, site] of sites.entries()) {
    const near = [...free].sort(
      (x, y) =>
        Math.hypot(x.latDeg - site.latDeg, (x.lonDeg - site.lonDeg) * 0.8) -
        Math.hypot(y.latDeg - site.latDeg, (y.lonDeg - site.lonDeg) * 0.8),
    );
    for (let k = 0; k < SECTORS_PER_SITE; k++) {
      const sector = radio(`ap-${site.id}-${k}`, `${site.name}, sector ${k + 1}`, {
        siteId: site.id,
        azimuthDeg: k * 120,
        tiltDownDeg: 2,
        frequencyMHz: FIRST_MHZ + 20 * ((at * SECTORS_PER_SITE + k) % CHANNELS),
      });
      radios.push(sector);
      for (const one of near.slice(k * clientsPerSector, (k + 1) * clientsPerSector)) {
        free.delete(one);
        const client = radio(`cpe-${one.id}`, `${one.name} radio`, {
          subscriberId: one.id,
          role: "subscriber",
          radioModelId: "brisote-vela-5c",
          antennaModelId: "brisote-losa-5-23",
          heightM: one.antennaHeightM,
          frequencyMHz: sector.frequencyMHz,
          injector: "passive24",
          ...USUAL.radios,
        });
        radios.push(client);
        links.push({
          id: `link-${one.id}`,
          planId,
          kind: "access",
          aRadioId: sector.id,
          bRadioId: client.id,
          state: "planned",
          foliageDepthM: null,
          ...USUAL.links,
        });
      }
    }
  }
  const rows = withCarriers({ ...emptyRows(PLAN), sites, subscribers, radios, links, equipment: libraryFor(planId) });
  return { rows, surface };
}
