import { bracketReach, tiltDownDeg } from "../aiming";
import { peakGainDbi, type AntennaModel } from "../antenna";
import { inverseGeodesic, normalizeAzimuthDeg } from "../geodesy";
import { sectorHeardKm } from "../coverage";
import { antennasFor, withPowerInCap } from "../kit";
import type { ProfileSource } from "../outcome";
import {
  endOf,
  mergePatches,
  mountsLeft,
  radioPatches,
  removePatch,
  withPatches,
  type Patch,
  type Radio,
  type Site,
  type Subscriber,
  type World,
} from "../plan";
import { attachTo, proposeSector } from "../propose";
import { median } from "../statistics";
import { addedEur, trialOf, type Trial } from "../trial";
import { azimuthLossDb, edgesOf, sectorCustomer, shareOfDistance, type SectorCustomer } from "../sectors";

/** How a site may serve the customers round it. */
const SCHOOLS = ["asItStands", "omni", "three", "four", "customers", "horns", "each"] as const;
export type School = (typeof SCHOOLS)[number];
export const SCHOOL_WORDS: Record<School, { name: string; meaning: string }> = {
  asItStands: {
    name: "The sectors as they stand",
    meaning: "The sectors that are there, with whoever they reach linked to them.",
  },
  omni: { name: "One omni", meaning: "Cover everything with one antenna: one point of failure that hears all round." },
  three: { name: "Three sectors", meaning: "Cover everything in three equal parts." },
  four: { name: "Four sectors", meaning: "Cover everything in four equal parts." },
  customers: {
    name: "Sectors where customers are",
    meaning: "As few sectors as hold every customer within 6 dB of a peak, and none elsewhere.",
  },
  horns: {
    name: "Horns where customers are",
    meaning: "The same with symmetrical horns, which leave less behind and beside them.",
  },
  each: {
    name: "A narrow antenna for each",
    meaning: "As by bridges: a dish or panel of his own toward every customer, for a few in one arc.",
  },
};

/** One school tried on a site: every figure from full answers of its customers under it. */
export interface SchoolTried {
  school: School;
  headings: { azimuthDeg: number | null; antenna: string }[];
  /** Puts it into hand. */
  patches: Patch[];
  customersAsked: number;
  customersServed: number;
  peopleAsked: number;
  peopleServed: number;
  /** Middle of the rates toward those served; null where nobody is. */
  medianMbps: number | null;
  /** Share of its time that the busiest sector is asked for. */
  busiestAirtime: number;
  /** Degrees round the mast within 6 dB of some sector's peak, and those of them without a customer. */
  litDeg: number;
  idleDeg: number;
  /** Area within the cell that is lit for nobody, km². */
  idleKm2: number;
  /** How much farther than its farthest customer the loudest sector is heard by such a customer in free sight, km; null where nobody is served. */
  heardBeyondKm: number | null;
  /** The most that known emitters, scans and the plan's own transmitters lift any sector's noise above thermal, dB. */
  noiseHeardDb: number;
  /** More than the plan costs now, euro. */
  costEur: number;
  mounts: number;
  mountsLeft: number;
}

const EDGE_DB = 6;
/** A customer lights so many degrees either side of him with purpose. */
const PURPOSE_DEG = 10;

/** A customer round a site. */
interface Asked {
  subscriber: Subscriber;
  bearingDeg: number;
  distanceM: number;
  /** From a mast as high as the site's structure, degrees below the horizontal. */
  tiltDownDeg: number;
}

/** Customers within a distance whom no other site serves. */
function customersAround(world: World, site: Site, radiusM: number): Subscriber[] {
  const linkedElsewhere = new Set<string>();
  for (const { aRadioId, bRadioId } of world.links.values()) {
    const subscriberId = world.radios.get(bRadioId)?.subscriberId;
    if (subscriberId && world.radios.get(aRadioId)?.siteId !== site.id) linkedElsewhere.add(subscriberId);
  }
  return [...world.subscribers.values()].filter(
    (one) => !linkedElsewhere.has(one.id) && inverseGeodesic(site, one).distanceM <= radiusM,
  );
}

/** Some customers as a site sees them. */
function seenFrom(world: World, site: Site, some: readonly Subscriber[], between: ProfileSource): Asked[] {
  return some.flatMap((subscriber): Asked[] => {
    const { azimuthDeg, distanceM } = inverseGeodesic(site, subscriber);
    if (distanceM === 0) return [];
    const { groundAmslM } = between(site, subscriber);
    const from = groundAmslM[0]! + site.structureHeightM;
    const to = groundAmslM[groundAmslM.length - 1]! + subscriber.antennaHeightM;
    const tilt = tiltDownDeg(from, to, distanceM, world.plan.kFactor);
    return [{ subscriber, bearingDeg: azimuthDeg, distanceM, tiltDownDeg: Number.isFinite(tilt) ? tilt : 0 }];
  });
}

/** A sector to be put up. */
interface Wanted {
  antenna: AntennaModel;
  azimuthDeg: number | null;
}

const widthDeg = (antenna: AntennaModel) => {
  const edge = edgesOf(antenna, "HV").find(({ depthDb }) => depthDb === EDGE_DB)!;
  return edge.leftDeg + edge.rightDeg;
};

/** As few headings as hold every customer within an antenna's −6 dB edges, each in the middle of those whom it holds. */
export function headingsFor(bearingsDeg: readonly number[], width: number): number[] {
  const round = bearingsDeg.map(normalizeAzimuthDeg).sort((x, y) => x - y);
  const all = round.length;
  /** Bearing of a customer counted on round the circle, degrees. */
  const bearing = (i: number) => round[i % all]! + 360 * Math.floor(i / all);
  // Whom a sector that begins at each customer does not hold any more.
  const beyond = new Int32Array(all);
  for (let i = 0, end = 0; i < all; i++) {
    while (end < i + all && bearing(end) - bearing(i) <= width) end++;
    beyond[i] = end;
  }
  const after = (i: number) => beyond[i % all]! + all * Math.floor(i / all);
  // Begun at each customer once: where the circle is cut decides how many are needed.
  let [best, fewest] = [0, Infinity];
  for (let start = 0; start < all; start++) {
    let count = 0;
    for (let i = start; i < start + all; i = after(i)) count++;
    if (count < fewest) [best, fewest] = [start, count];
  }
  const headings: number[] = [];
  for (let i = best; i < best + all; i = after(i)) {
    const last = Math.min(after(i), best + all) - 1;
    headings.push(Math.round(normalizeAzimuthDeg((bearing(i) + bearing(last)) / 2)));
  }
  return headings;
}

/** The antenna of some shape with which as few and as cheap sectors as possible hold everybody. */
function aroundCustomers(antennas: readonly AntennaModel[], asked: readonly Asked[]): Wanted[] {
  const bearings = asked.map(({ bearingDeg }) => bearingDeg);
  const tried = antennas.map((antenna) => ({ antenna, headings: headingsFor(bearings, widthDeg(antenna)) }));
  const best = tried.sort(
    (x, y) =>
      x.headings.length * (x.antenna.priceEur + SECTOR_RADIO_EUR) -
      y.headings.length * (y.antenna.priceEur + SECTOR_RADIO_EUR),
  )[0];
  return best ? best.headings.map((azimuthDeg) => ({ antenna: best.antenna, azimuthDeg })) : [];
}
/** A radio comes with every sector: one antenna more is never the whole price, euro. */
const SECTOR_RADIO_EUR = 300;

/** More customers than this are no few, and a narrow antenna is at most so wide at −6 dB. */
const MOST_EACH = 6;
const NARROW_DEG = 30;

function wantedBy(world: World, school: School, asked: readonly Asked[], frequencyMHz: number): Wanted[] | null {
  const fitting = antennasFor(world, "sector", frequencyMHz);
  const of = (shape: AntennaModel["shape"]) => fitting.filter((antenna) => antenna.shape === shape);
  const nearest = (deg: number) =>
    of("sector").reduce<AntennaModel | null>(
      (best, one) => (!best || Math.abs(widthDeg(one) - deg) < Math.abs(widthDeg(best) - deg) ? one : best),
      null,
    );
  const even = (count: number): Wanted[] | null => {
    const antenna = nearest(360 / count);
    const first = asked[0] ? asked[0].bearingDeg : 0;
    return (
      antenna &&
      Array.from({ length: count }, (_, i) => ({
        antenna,
        azimuthDeg: Math.round(normalizeAzimuthDeg(first + (i * 360) / count)),
      }))
    );
  };
  switch (school) {
    case "asItStands":
      return [];
    case "omni": {
      const loudest = of("omni").sort((x, y) => peakGainDbi(y, frequencyMHz) - peakGainDbi(x, frequencyMHz))[0];
      return loudest ? [{ antenna: loudest, azimuthDeg: null }] : null;
    }
    case "three":
      return even(3);
    case "four":
      return even(4);
    case "customers":
      return of("sector").length > 0 ? aroundCustomers(of("sector"), asked) : null;
    case "horns":
      return of("horn").length > 0 ? aroundCustomers(of("horn"), asked) : null;
    case "each": {
      // The cheapest that is narrow: for so few its price counts more than its gain.
      const narrow = antennasFor(world, "bridge", frequencyMHz).find((antenna) => widthDeg(antenna) <= NARROW_DEG);
      return narrow && asked.length <= MOST_EACH
        ? asked.map(({ bearingDeg }) => ({ antenna: narrow, azimuthDeg: Math.round(bearingDeg) % 360 }))
        : null;
    }
  }
}

/** The tilt that looks at the middle of some people, as far as the bracket reaches, to the half degree. */
function tiltToward(antenna: AntennaModel, radio: Radio, model: World["radioModels"], some: readonly Asked[]): number {
  const weighted = some
    .flatMap(({ tiltDownDeg: deg, subscriber }) => Array.from({ length: Math.min(50, subscriber.people) }, () => deg))
    .sort((x, y) => x - y);
  const middle = weighted[weighted.length >> 1] ?? 0;
  const end = { radio, antenna, model: model.get(radio.radioModelId)! } as Parameters<typeof bracketReach>[0];
  const { downDeg, upDeg } = bracketReach(end);
  const wanted = Math.round(2 * (middle - antenna.electricalTiltDownDeg)) / 2;
  return Math.min(downDeg, Math.max(-upDeg, wanted));
}

/** Tries one school on a site for some customers; null where the library has no kit for it, or there is nobody to serve. */
export function trySchool(
  world: World,
  site: Site,
  school: School,
  customers: readonly Subscriber[],
  between: ProfileSource,
  makeId: () => string,
): SchoolTried | null {
  const asked = seenFrom(world, site, customers, between);
  if (asked.length === 0) return null;
  const before = [...world.radios.values()].filter(({ siteId, role }) => siteId === site.id && role === "sector");
  if (school === "asItStands" && before.length === 0) return null;
  let planned = world;
  const patches: Patch[] = [];
  const put = (more: readonly Patch[]) => {
    patches.push(...more);
    planned = withPatches(planned, more);
  };
  const sectors: Radio[] = school === "asItStands" ? [...before] : [];
  const first = before[0];
  const wanted = wantedBy(world, school, asked, first?.frequencyMHz ?? USUAL_MHZ);
  if (!wanted || (school !== "asItStands" && wanted.length === 0)) return null;
  wanted.forEach(({ antenna, azimuthDeg }, i) => {
    const name = azimuthDeg === null ? `${site.name} omni` : `${site.name} ${azimuthDeg}°`;
    const proposed = proposeSector(planned, site, name.slice(0, 120), azimuthDeg ?? 0, makeId);
    if (!proposed) return;
    const known = new Set(planned.radios.keys());
    put(proposed);
    const radio = [...planned.radios.values()].find(({ id }) => !known.has(id))!;
    const nearest = asked.filter(({ bearingDeg }) => bestOf(wanted, bearingDeg) === i);
    const turned = { ...radio, antennaModelId: antenna.id, azimuthDeg };
    turned.tiltDownDeg = tiltToward(antenna, turned, planned.radioModels, nearest);
    put(
      radioPatches(planned, withPowerInCap(planned, { ...endOf(planned, radio.id), radio: turned, antenna }, "ptmp")),
    );
    sectors.push(planned.radios.get(radio.id)!);
  });
  if (sectors.length === 0) return null;
  const attached = new Map<string, { linkId: string; patches: Patch[]; isNew: boolean }>();
  const linkedHere = new Set(
    [...world.links.values()].map(({ bRadioId }) => world.radios.get(bRadioId)?.subscriberId ?? ""),
  );
  const base = planned;
  for (const { subscriber, bearingDeg } of asked) {
    const isNew = !linkedHere.has(subscriber.id);
    if (school === "asItStands" && !isNew) continue;
    const sector =
      sectors[
        bestOf(
          sectors.map((one) => ({ antenna: base.antennaModels.get(one.antennaModelId)!, azimuthDeg: one.azimuthDeg })),
          bearingDeg,
        )
      ]!;
    const way = attachTo(planned, sector, subscriber, makeId);
    if (!way) continue;
    attached.set(subscriber.id, { ...way, isNew });
    planned = withPatches(planned, way.patches);
  }
  // Whoever is new and would not be served is left out: his noise is spared.
  const trial = trialOf(planned, between);
  const kept = [...attached.values()].filter((one) => !one.isNew || trial.isServed(one.linkId));
  planned = base;
  put(kept.flatMap((one) => one.patches));
  if (school !== "asItStands")
    put(
      before
        .filter(
          ({ id }) => ![...planned.links.values()].some(({ aRadioId, bRadioId }) => aRadioId === id || bRadioId === id),
        )
        .map(({ id }) => removePatch("radios", id)),
    );
  return triedSchool(
    trialOf(world, between),
    trialOf(planned, between),
    site,
    school,
    asked,
    sectors,
    mergePatches([], patches),
  );
}
const USUAL_MHZ = 5600;

/** The sector that sees a bearing best. */
function bestOf(sectors: readonly { antenna: AntennaModel; azimuthDeg: number | null }[], bearingDeg: number): number {
  let best = 0;
  let bestDbi = -Infinity;
  sectors.forEach(({ antenna, azimuthDeg }, i) => {
    const middle = antenna.gainAcrossBand[antenna.gainAcrossBand.length >> 1]!.vDbi;
    const dbi =
      middle -
      (azimuthDeg === null
        ? 0
        : azimuthLossDb(antenna, "HV", normalizeAzimuthDeg(bearingDeg - azimuthDeg + 180) - 180));
    if (dbi > bestDbi) [best, bestDbi] = [i, dbi];
  });
  return best;
}

function triedSchool(
  before: Trial,
  after: Trial,
  site: Site,
  school: School,
  asked: readonly Asked[],
  sectors: readonly Radio[],
  patches: Patch[],
): SchoolTried {
  const { world: planned } = after;
  const ids = new Set(sectors.map(({ id }) => id));
  let noiseHeardDb = 0;
  const customers = [...planned.links.values()].flatMap((link): SectorCustomer[] => {
    if (!ids.has(link.aRadioId)) return [];
    const found = after.answer(link.id);
    noiseHeardDb = Math.max(noiseHeardDb, found.path?.bToA.noise.riseDb ?? 0);
    const one = sectorCustomer(planned, link, found);
    return one ? [one] : [];
  });
  const served = customers.filter(({ isServed }) => isServed);
  const airtimes = sectors.map(({ id }) =>
    customers
      .filter(({ linkId }) => planned.links.get(linkId)!.aRadioId === id)
      .reduce((sum, { airtime }) => sum + (airtime ?? 0), 0),
  );
  const cellKm = Math.max(0, ...served.map(({ distanceM }) => distanceM)) / 1000;
  let [litDeg, idleDeg, idleKm2] = [0, 0, 0];
  for (let bearing = 0; bearing < 360; bearing++) {
    const lossDb = Math.min(
      ...sectors.map(({ antennaModelId, polarization, azimuthDeg }) =>
        azimuthDeg === null
          ? 0
          : azimuthLossDb(planned.antennaModels.get(antennaModelId)!, polarization, bearing - azimuthDeg),
      ),
    );
    if (lossDb > EDGE_DB) continue;
    litDeg++;
    if (served.some((one) => Math.abs(normalizeAzimuthDeg(one.bearingDeg - bearing + 180) - 180) <= PURPOSE_DEG))
      continue;
    idleDeg++;
    idleKm2 += (Math.PI * (cellKm * shareOfDistance(lossDb)) ** 2) / 360;
  }
  return {
    school,
    headings: sectors.map(({ azimuthDeg, antennaModelId }) => ({
      azimuthDeg,
      antenna: planned.antennaModels.get(antennaModelId)!.model,
    })),
    patches,
    customersAsked: asked.length,
    customersServed: served.length,
    peopleAsked: asked.reduce((sum, { subscriber }) => sum + subscriber.people, 0),
    peopleServed: served.reduce((sum, { people }) => sum + people, 0),
    medianMbps: median(served.map(({ downMbps }) => downMbps)),
    busiestAirtime: Math.max(0, ...airtimes),
    litDeg,
    idleDeg,
    idleKm2,
    heardBeyondKm:
      served.length > 0
        ? Math.max(...[...ids].map((id) => sectorHeardKm(planned, planned.radios.get(id)!) ?? 0)) - cellKm
        : null,
    noiseHeardDb,
    costEur: addedEur(before, after),
    mounts: sectors.length,
    mountsLeft: mountsLeft(planned, planned.sites.get(site.id)!),
  };
}

/** Every school tried on a site for the customers within a distance whom no other site serves. */
export function trySchools(
  world: World,
  site: Site,
  radiusM: number,
  between: ProfileSource,
  makeId: () => string,
): SchoolTried[] {
  const customers = customersAround(world, site, radiusM);
  return SCHOOLS.flatMap((school) => trySchool(world, site, school, customers, between, makeId) ?? []);
}

const nameOf = ({ school }: SchoolTried) => SCHOOL_WORDS[school].name.replace(/^./, (letter) => letter.toLowerCase());

/** Others that serve nearly as many people count as equal: then the least lit for nobody decides, then the price. */
const ALIKE_SHARE = 0.02;

/** The school to take, and why in two sentences; null without any. */
export function recommended(options: readonly SchoolTried[]): { option: SchoolTried; why: string } | null {
  const most = Math.max(...options.map(({ peopleServed }) => peopleServed));
  const able = options.filter(
    ({ peopleServed, mountsLeft: left }) => left >= 0 && peopleServed >= most * (1 - ALIKE_SHARE) && peopleServed > 0,
  );
  const best = able.sort((x, y) => x.idleKm2 - y.idleKm2 || x.costEur - y.costEur)[0];
  if (!best) return null;
  const wasteful = options.reduce((worst, one) => (one.idleKm2 > worst.idleKm2 ? one : worst));
  const served = `${best.peopleServed} of ${best.peopleAsked} people are served by ${nameOf(best)}, ${best.peopleServed === most ? "as many as by any other way" : "nearly as many as by any other way"}.`;
  const why =
    wasteful.school === best.school
      ? `No other way lights less for nobody.`
      : `It lights ${best.idleKm2.toFixed(1)} km² for nobody, against ${wasteful.idleKm2.toFixed(1)} km² by ${nameOf(wasteful)}.`;
  return { option: best, why: `${served} ${why}` };
}
