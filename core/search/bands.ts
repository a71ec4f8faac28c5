import type { AntennaModel } from "../antenna";
import { climateOf } from "../climate";
import { antennasFor, powerWithinCapDbm, type ProfileSource } from "../findings";
import {
  answerLink,
  availabilityOf,
  isServed,
  linearOf,
  wantedMarginDb,
  type LinkAnswer,
  type PathState,
} from "../link";
import { linkEnds, type Edit, type Link, type LinkEnd, type Radio, type World } from "../plan";
import type { RadioModel } from "../radio";
import { LICENCE_WORDS, ruleSetOf } from "../regulation";
import type { Profile } from "../terrain";

/** The bands compared, with the stretch of spectrum each stands for. */
export const BANDS = [
  { name: "900 MHz", lowMHz: 850, highMHz: 960 },
  { name: "2.4 GHz", lowMHz: 2400, highMHz: 2500 },
  { name: "3.65 GHz", lowMHz: 3400, highMHz: 3800 },
  { name: "5 GHz", lowMHz: 4900, highMHz: 5900 },
  { name: "6 GHz", lowMHz: 5925, highMHz: 7125 },
  { name: "11 GHz", lowMHz: 10_500, highMHz: 12_000 },
  { name: "24 GHz", lowMHz: 24_000, highMHz: 24_500 },
  { name: "60 GHz", lowMHz: 57_000, highMHz: 71_000 },
  { name: "80 GHz", lowMHz: 71_000, highMHz: 86_000 },
] as const;
export type BandName = (typeof BANDS)[number]["name"];

/** What a band can do between two ends, with the kit of the library that does it best. */
export interface BandResult {
  frequencyMHz: number;
  widthMHz: number;
  aRadio: string;
  aAntenna: string;
  bRadio: string;
  bAntenna: string;
  state: PathState;
  /** Clearance at the worst point as a share of the band's own first zone. */
  zoneShare: number;
  /** Losses by cause on the weaker direction, dB. */
  lossDb: { freeSpace: number; gas: number; diffraction: number; trees: number; walls: number; rain: number };
  levelDbm: number;
  marginLeftDb: number;
  downMbps: number;
  upMbps: number;
  /** Of an average year. */
  availabilityPercent: number;
  costEur: number;
  served: boolean;
  carriesDemand: boolean;
  /** What the rule set asks beyond its caps. */
  licence: string;
}

export interface BandRow {
  band: BandName;
  /** Null where no kit of the library can stand on it. */
  result: BandResult | null;
  reason: string;
  /** The change that puts it in hand; empty where there is none. */
  edits: Edit[];
}

interface Kit {
  aModel: RadioModel;
  bModel: RadioModel;
  aAntennas: AntennaModel[];
  bAntennas: AntennaModel[];
  use: "ptp" | "ptmp";
  /** Both ends carry the same antenna. */
  isPair: boolean;
}

/** Combinations of radios that could stand at the two ends, by role, in one band. */
function kitsFor(world: World, link: Link, lowMHz: number, highMHz: number): Kit[] {
  const inBand = (band: readonly [number, number]) => band[0] < highMHz && band[1] > lowMHz;
  const models = (role: Radio["role"]) =>
    [...world.radioModels.values()].filter((model) => model.use === role && inBand(model.bandMHz));
  const antennas = (role: Radio["role"], model: RadioModel) =>
    antennasFor(world, role, (Math.max(model.bandMHz[0], lowMHz) + Math.min(model.bandMHz[1], highMHz)) / 2);
  const bridges: Kit[] = models("bridge").map((model) => {
    const list = antennas("bridge", model);
    return { aModel: model, bModel: model, aAntennas: list, bAntennas: list, use: "ptp", isPair: true };
  });
  const access = models("sector").flatMap((aModel) =>
    models("subscriber").map((bModel): Kit => {
      const list = antennas("subscriber", bModel);
      const isBridge = link.kind === "bridge";
      return {
        aModel,
        bModel,
        aAntennas: isBridge ? list : antennas("sector", aModel),
        bAntennas: list,
        use: isBridge ? "ptp" : "ptmp",
        isPair: isBridge,
      };
    }),
  );
  const [first, second] = link.kind === "bridge" ? [bridges, access] : [access, bridges];
  return first.length > 0 ? first : second;
}

/** Channel centres worth trying: the link's own, and the middle of each rule's part of the band, on the radio's raster. */
function centresFor(world: World, kit: Kit, ownMHz: number, widthMHz: number): number[] {
  const low = Math.max(kit.aModel.bandMHz[0], kit.bModel.bandMHz[0]);
  const high = Math.min(kit.aModel.bandMHz[1], kit.bModel.bandMHz[1]);
  const raster = kit.aModel.rasterMHz;
  const centres = new Set<number>();
  const add = (from: number, to: number) => {
    if (to - from < widthMHz) return;
    const middle = from + Math.round((to - from) / 2 / raster) * raster;
    centres.add(Math.min(to - widthMHz / 2, Math.max(from + widthMHz / 2, middle)));
  };
  if (ownMHz - widthMHz / 2 >= low && ownMHz + widthMHz / 2 <= high) centres.add(ownMHz);
  const rules = ruleSetOf(world.plan).rules.filter(({ bandMHz }) => bandMHz[0] < high && bandMHz[1] > low);
  for (const { bandMHz } of rules) add(Math.max(low, bandMHz[0]), Math.min(high, bandMHz[1]));
  if (rules.length === 0) add(low, high);
  return [...centres];
}

function endWith(
  world: World,
  end: LinkEnd,
  model: RadioModel,
  antenna: AntennaModel,
  channel: { frequencyMHz: number; widthMHz: number },
  use: Kit["use"],
  role: Radio["role"],
): LinkEnd {
  const radio: Radio = {
    ...end.radio,
    ...channel,
    role,
    radioModelId: model.id,
    antennaModelId: antenna.id,
    polarization: model.chains === 1 ? "V" : "HV",
    injector: model.powerInput,
    // A narrower antenna at a fixed direction would miss: what stands alone is aimed.
    azimuthDeg: use === "ptp" ? null : end.radio.azimuthDeg,
    tiltDownDeg: use === "ptp" ? null : end.radio.tiltDownDeg,
  };
  radio.txPowerDbm = powerWithinCapDbm(world, model, antenna, radio, use);
  return { ...end, radio, model, antenna };
}

interface Tried {
  a: LinkEnd;
  b: LinkEnd;
  answer: LinkAnswer;
  served: boolean;
  carriesDemand: boolean;
  costEur: number;
  covered: boolean;
  kit: Kit;
}

const price = ({ model, antenna }: LinkEnd) => model.priceEur + antenna.priceEur;
const weaker = ({ answer }: Tried) => {
  const { aToB, bToA } = answer.path!;
  return aToB.marginLeftDb <= bToA.marginLeftDb ? aToB : bToA;
};

/** Best first: legal, served, carrying what is asked for, clear; then the cheaper, then the faster; among the unserved, by margin. */
function byWorth(x: Tried, y: Tried): number {
  const grade = ({ covered, served, carriesDemand, answer: { state } }: Tried) =>
    (covered ? 0 : 16) +
    (served ? 0 : 8) +
    (carriesDemand ? 0 : 4) +
    (state === "clear" ? 0 : state === "tight" ? 1 : 2);
  const difference = grade(x) - grade(y);
  if (difference !== 0) return difference;
  if (!x.served) return weaker(y).marginLeftDb - weaker(x).marginLeftDb;
  if (!x.carriesDemand) return y.answer.path!.aToB.rateMbps - x.answer.path!.aToB.rateMbps || x.costEur - y.costEur;
  return x.costEur - y.costEur || y.answer.path!.aToB.rateMbps - x.answer.path!.aToB.rateMbps;
}

function bestIn(
  world: World,
  link: Link,
  ends: { a: LinkEnd; b: LinkEnd },
  profile: Profile,
  demandMbps: number,
  band: (typeof BANDS)[number],
): Tried | null {
  let best: Tried | null = null;
  for (const kit of kitsFor(world, link, band.lowMHz, band.highMHz)) {
    const widths = kit.aModel.widthsMHz.filter((width) => kit.bModel.widthsMHz.includes(width));
    for (const widthMHz of widths) {
      for (const frequencyMHz of centresFor(world, kit, ends.a.radio.frequencyMHz, widthMHz)) {
        for (const aAntenna of kit.aAntennas) {
          for (const bAntenna of kit.isPair ? [aAntenna] : kit.bAntennas) {
            const channel = { frequencyMHz, widthMHz };
            const isBridge = kit.aModel.use === "bridge";
            const a = endWith(
              world,
              ends.a,
              kit.aModel,
              aAntenna,
              channel,
              kit.use,
              isBridge ? "bridge" : ends.a.radio.role,
            );
            const b = endWith(
              world,
              ends.b,
              kit.bModel,
              bAntenna,
              channel,
              kit.use,
              isBridge ? "bridge" : ends.b.radio.role,
            );
            const answer = answerLink({
              plan: world.plan,
              kind: kit.use === "ptp" ? "bridge" : "access",
              foliageDepthM: link.foliageDepthM,
              a,
              b,
              profile,
            });
            if (!answer.path || answer.distanceM > Math.min(kit.aModel.rangeLimitKm, kit.bModel.rangeLimitKm) * 1000)
              continue;
            const { aToB, bToA } = answer.path;
            const tried: Tried = {
              a,
              b,
              answer,
              kit,
              served: isServed(world.plan, frequencyMHz, answer),
              carriesDemand: Math.round(aToB.rateMbps) >= demandMbps,
              costEur: price(a) + price(b),
              covered: aToB.limit.covered && aToB.overCapDb < 0.05 && bToA.overCapDb < 0.05,
            };
            if (best === null || byWorth(tried, best) < 0) best = tried;
          }
        }
      }
    }
  }
  return best;
}

function resultOf(world: World, tried: Tried): BandResult {
  const { a, b, answer } = tried;
  const path = answer.path!;
  const tape = weaker(tried);
  const { path: losses } = tape.question;
  const latDeg = (a.place.latDeg + b.place.latDeg) / 2;
  const climate = climateOf(world.plan, latDeg);
  const { availabilityPercent } = availabilityOf(
    {
      distanceKm: losses.distanceKm,
      frequencyGHz: losses.frequencyMHz / 1000,
      polarization: linearOf(a.radio.polarization),
      latDeg,
      txAmslM: path.aAmslM,
      rxAmslM: path.bAmslM,
      rainRate001MmPerH: climate.rainRate001MmPerH,
      dN1: climate.dN1NPerKm,
    },
    tape.fadeMarginDb,
  );
  const name = ({ maker, model }: { maker: string; model: string }) => `${maker} ${model}`;
  return {
    frequencyMHz: losses.frequencyMHz,
    widthMHz: losses.widthMHz,
    aRadio: name(a.model),
    aAntenna: name(a.antenna),
    bRadio: name(b.model),
    bAntenna: name(b.antenna),
    state: answer.state,
    zoneShare: path.clearance.worstShare,
    lossDb: {
      freeSpace: losses.freeSpaceDb,
      gas: tape.gasDb,
      diffraction: losses.diffractionDb,
      trees: losses.trees.lossDb,
      walls: tape.fromWallDb + tape.toWallDb,
      rain: tape.rainDb,
    },
    levelDbm: tape.levelDbm,
    marginLeftDb: tape.marginLeftDb,
    downMbps: path.aToB.rateMbps,
    upMbps: path.bToA.rateMbps,
    availabilityPercent,
    costEur: tried.costEur,
    served: tried.served,
    carriesDemand: tried.carriesDemand,
    licence: path.aToB.limit.covered ? LICENCE_WORDS[path.aToB.limit.licence] : "no rule for it",
  };
}

/** A loss under this is no reason, dB. */
const WORTH_NAMING_DB = 3;
const LOSS_WORDS: Record<Exclude<keyof BandResult["lossDb"], "freeSpace">, string> = {
  gas: "oxygen and vapour take",
  diffraction: "the ground takes",
  trees: "trees take",
  walls: "walls take",
  rain: "rain takes",
};

/** Why a band stands where it stands. */
function reasonFor(world: World, tried: Tried, result: BandResult, demandMbps: number): string {
  if (!tried.covered) {
    const { limit, overCapDb } = tried.answer.path!.aToB;
    return limit.covered ? `${overCapDb.toFixed(1)} dB over its cap even at least power` : limit.reason;
  }
  const wanted = wantedMarginDb(world.plan, result.frequencyMHz);
  if (!result.served) {
    const [cause, lossDb] = (Object.keys(LOSS_WORDS) as (keyof typeof LOSS_WORDS)[])
      .map((key) => [key, result.lossDb[key]] as const)
      .reduce((most, one) => (one[1] > most[1] ? one : most));
    const short = `${(wanted - result.marginLeftDb).toFixed(1)} dB short of the ${wanted} wanted`;
    return lossDb > WORTH_NAMING_DB
      ? `${short}: ${LOSS_WORDS[cause]} ${lossDb.toFixed(1)} dB`
      : `${short} over this distance`;
  }
  if (!result.carriesDemand)
    return `holds, but carries ${result.downMbps.toFixed(0)} of ${demandMbps} Mbit/s asked for`;
  return `holds with ${(result.marginLeftDb - wanted).toFixed(1)} dB to spare and carries ${result.downMbps.toFixed(0)} Mbit/s for €${result.costEur.toFixed(0)}`;
}

/** The change that puts a band in hand. A sector that serves others stays as it is: a new radio stands beside it. */
function editsFor(world: World, link: Link, { a, b, kit }: Tried, makeId: () => string): Edit[] {
  const isShared = [...world.links.values()].some((other) => other.id !== link.id && other.aRadioId === link.aRadioId);
  const aRadio: Radio = isShared
    ? { ...a.radio, id: makeId(), name: `${a.radio.name}, ${kit.aModel.model}`.slice(0, 120), address: "" }
    : a.radio;
  return [
    { kind: "radios", id: aRadio.id, row: aRadio },
    { kind: "radios", id: b.radio.id, row: b.radio },
    {
      kind: "links",
      id: link.id,
      row: { ...link, aRadioId: aRadio.id, kind: kit.use === "ptp" ? "bridge" : "access", state: "planned" },
    },
  ];
}

/**
 * Every band side by side for the two ends of one link, heights as they are, each with the kit of the library, width and
 * channel that serve it best within the plan's rules. Best band first; bands without kit or answer last. `demandMbps` is
 * what the link should carry away from its first end.
 */
export function compareBands(
  world: World,
  link: Link,
  demandMbps: number,
  profileBetween: ProfileSource,
  makeId: () => string,
): BandRow[] {
  const ends = linkEnds(world, link);
  const profile = profileBetween(ends.a.place, ends.b.place);
  const rows = BANDS.map((band) => ({ band, tried: bestIn(world, link, ends, profile, demandMbps, band) }));
  rows.sort((x, y) =>
    x.tried && y.tried ? byWorth(x.tried, y.tried) : Number(x.tried === null) - Number(y.tried === null),
  );
  return rows.map(({ band, tried }): BandRow => {
    if (!tried) return { band: band.name, result: null, reason: whyNone(world, link, profile, band), edits: [] };
    const result = resultOf(world, tried);
    return {
      band: band.name,
      result,
      reason: reasonFor(world, tried, result, demandMbps),
      edits: editsFor(world, link, tried, makeId),
    };
  });
}

function whyNone(world: World, link: Link, profile: Profile, { lowMHz, highMHz }: (typeof BANDS)[number]): string {
  const kits = kitsFor(world, link, lowMHz, highMHz);
  if (kits.length === 0) return "no radio of the library works here";
  if (kits.every(({ aAntennas, bAntennas }) => aAntennas.length === 0 || bAntennas.length === 0))
    return "no antenna of the library fits its radios";
  const reach = Math.max(...kits.map(({ aModel, bModel }) => Math.min(aModel.rangeLimitKm, bModel.rangeLimitKm)));
  if (profile.distanceM > reach * 1000)
    return `${(profile.distanceM / 1000).toFixed(1)} km is beyond the ${reach} km that its radios' timing allows`;
  return "the path cannot be answered";
}
