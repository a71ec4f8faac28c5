import { answerOf, type ProfileSource } from "../../outcome";
import { availabilityOf, fadingPathOf, holds, wantedMarginDb, type LinkAnswer, type PathState } from "../../link";
import {
  linkEnds,
  radioPatches,
  setPatch,
  withPatches,
  type Patch,
  type Link,
  type LinkEnd,
  type Radio,
  type World,
  linksOn,
} from "../../plan";
import { LICENCE_WORDS } from "../../regulation";
import type { Profile } from "../../terrain";
import { kitsFor, waysIn, type Way } from "./waysIn";

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
  /** On which the first end sends; in FDD the other end answers on another. */
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
  /** On each chain of the weaker direction, dBm. */
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
  patches: Patch[];
}

interface Tried extends Way {
  served: boolean;
  carriesDemand: boolean;
  covered: boolean;
}

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

/** Ways to use a band that are asked again with what the plan's own transmitters put into their channel. */
const MOST_HEARD = 8;

/** The best way to use a band, among the few that are best in silence. */
function bestIn(
  world: World,
  link: Link,
  ends: { a: LinkEnd; b: LinkEnd },
  profileBetween: ProfileSource,
  demandMbps: number,
  band: (typeof BANDS)[number],
): Tried | null {
  const upMbps = ends.b.demand?.upMbps ?? 0;
  const inSilence = waysIn(world, link, ends, profileBetween(ends.a.place, ends.b.place), band)
    .map((way): Tried => ({ ...way, ...worthOf(world, way.answer, way.a.radio.frequencyMHz, demandMbps, upMbps) }))
    .sort(byWorth);
  const channels = new Set<string>();
  const heard = inSilence
    .filter(({ a }) => {
      const channel = `${a.radio.frequencyMHz} ${a.radio.widthMHz}`;
      if (channels.has(channel)) return false;
      channels.add(channel);
      return true;
    })
    .slice(0, MOST_HEARD)
    .map((tried): Tried => {
      const { a, b, kit } = tried;
      const carrierId = isShared(world, link) ? `${link.id} tried` : a.radio.carrierId;
      const trial = withPatches(
        world,
        [a, b].flatMap(({ radio }) => radioPatches(world, { ...radio, carrierId })),
      );
      const kind = kit.use === "ptp" ? "bridge" : "access";
      const answer = answerOf(trial, { ...link, kind }, profileBetween);
      return { ...tried, answer, ...worthOf(world, answer, a.radio.frequencyMHz, demandMbps, upMbps) };
    })
    .filter(({ answer }) => answer.path !== null);
  return heard.sort(byWorth)[0] ?? null;
}

function worthOf(world: World, answer: LinkAnswer, frequencyMHz: number, demandMbps: number, upMbps: number) {
  const { aToB, bToA } = answer.path!;
  return {
    served: holds(world.plan, frequencyMHz, answer),
    carriesDemand: aToB.rateMbps >= demandMbps && bToA.rateMbps >= upMbps,
    covered: aToB.closed === null && bToA.closed === null && aToB.overCapDb < 0.05 && bToA.overCapDb < 0.05,
  };
}

function resultOf(world: World, tried: Tried): BandResult {
  const { a, b, answer } = tried;
  const path = answer.path!;
  const tape = weaker(tried);
  const { path: losses } = tape.question;
  const { availabilityPercent } = availabilityOf(
    fadingPathOf(world.plan, { a, b }, path, answer.distanceM),
    tape.fadeMarginDb,
  );
  const name = ({ maker, model }: { maker: string; model: string }) => `${maker} ${model}`;
  return {
    frequencyMHz: a.radio.frequencyMHz,
    widthMHz: a.radio.widthMHz,
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
    levelDbm: tape.chainLevelDbm,
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
  diffraction: "bending over what stands in the way takes",
  trees: "trees take",
  walls: "walls take",
  rain: "rain takes",
};

/** Why a band stands where it stands. */
function reasonFor(world: World, tried: Tried, result: BandResult, demandMbps: number): string {
  if (!tried.covered) {
    const { aToB, bToA } = tried.answer.path!;
    const closed = aToB.closed ?? bToA.closed;
    return closed ?? `${Math.max(aToB.overCapDb, bToA.overCapDb).toFixed(1)} dB over its cap even at least power`;
  }
  const wanted = wantedMarginDb(world.plan, result.frequencyMHz);
  const { aToB, bToA, mismatches } = tried.answer.path!;
  const overloadDb = Math.max(aToB.overloadDb, bToA.overloadDb);
  if (mismatches.length > 0) return `does not pass: ${mismatches[0]!}`;
  if (overloadDb > 0) return `does not pass: overloads the receiver by ${overloadDb.toFixed(1)} dB even at least power`;
  const treetops = tried.answer.path!.treesAlone && aToB.question.path.trees.way !== "through";
  if (!result.served) {
    const [cause, lossDb] = (Object.keys(LOSS_WORDS) as (keyof typeof LOSS_WORDS)[])
      .map((key) => [key, result.lossDb[key]] as const)
      .reduce((most, one) => (one[1] > most[1] ? one : most));
    const words = cause === "diffraction" && treetops ? "bending over treetops takes" : LOSS_WORDS[cause];
    const because = lossDb > WORTH_NAMING_DB ? `${words} ${lossDb.toFixed(1)} dB` : "the distance is too long";
    const short = `${(wanted - result.marginLeftDb).toFixed(1)} dB short of the ${wanted} wanted`;
    // What does not arrive at all is said before what it is short by.
    return result.marginLeftDb < 0 ? `does not pass: ${because}; ${short}` : `${short}: ${because}`;
  }
  const airMbps = aToB.airRateMbps;
  const socket = airMbps === null ? "" : `: the air would carry ${airMbps.toFixed(0)}, its socket does not`;
  if (!result.carriesDemand)
    return `holds, but carries ${result.downMbps.toFixed(0)} of ${demandMbps.toFixed(0)} Mbit/s it must carry, ${result.upMbps.toFixed(0)} back${socket}`;
  return `holds with ${(result.marginLeftDb - wanted).toFixed(1)} dB to spare and carries ${result.downMbps.toFixed(0)} Mbit/s for €${result.costEur.toFixed(0)}${socket}`;
}

/** The change that puts a band in hand. A sector that serves others stays as it is: a new radio stands beside it. */
function patchesFor(world: World, link: Link, { a, b, kit }: Tried, makeId: () => string): Patch[] {
  const id = isShared(world, link) ? makeId() : a.radio.id;
  const aRadio: Radio =
    id === a.radio.id
      ? a.radio
      : {
          ...a.radio,
          id,
          carrierId: id,
          name: `${a.radio.name}, ${kit.aModel.model}`.slice(0, 120),
          address: "",
        };
  return [
    ...radioPatches(world, aRadio),
    ...radioPatches(world, { ...b.radio, carrierId: aRadio.carrierId }),
    setPatch("links", link.id, {
      aRadioId: aRadio.id,
      kind: kit.use === "ptp" ? "bridge" : "access",
      state: "planned",
    }),
  ];
}

/** Whether the first end of a link serves others too. */
function isShared(world: World, link: Link): boolean {
  return linksOn(world, link.aRadioId).some(({ id }) => id !== link.id);
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
  const rows = BANDS.map((band) => ({ band, tried: bestIn(world, link, ends, profileBetween, demandMbps, band) }));
  rows.sort((x, y) =>
    x.tried && y.tried ? byWorth(x.tried, y.tried) : Number(x.tried === null) - Number(y.tried === null),
  );
  return rows.map(({ band, tried }): BandRow => {
    if (!tried) return { band: band.name, result: null, reason: whyNone(world, link, profile, band), patches: [] };
    const result = resultOf(world, tried);
    return {
      band: band.name,
      result,
      reason: reasonFor(world, tried, result, demandMbps),
      patches: patchesFor(world, link, tried, makeId),
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
