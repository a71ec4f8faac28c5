import { leavesIn, spareDb, type LinkAnswer, type Tape } from "../link";
import type { LearnedCase, LearnedReading, NoiseCase, NoiseReading } from "../learn";
import { linkEnds, type Link, type Measurement, type World } from "../plan";
import { judge, newestMeasurements, readLevelsDbm } from "../proof";
import { DAY_MS } from "../watch";
import { pathLeaves, type PathLeaves } from "../link";
import type { OtherSeason } from "../watch";
import { dayOfYear, leafShare } from "../watch";
import type { LinkWatch } from "../watch";

/** A link as readings can teach about it. */
export interface Learnable extends PathLeaves {
  linkId: string;
  /** Level of all chains together at each end by physics alone, dBm; what was learned is beside it. */
  physicsDbm: { a: number; b: number };
  learnedDb: number;
  /** What it has to spare with what was learned, where that is in use, dB. */
  spareDb: number;
  /** What each end hears. */
  noise: { a: HeardNoise; b: HeardNoise };
}

/** A receiver's noise on one chain by physics alone, by where it comes from. */
export interface HeardNoise {
  radioId: string;
  receiver: NoiseCase;
  thermalDbm: number;
  /** Thermal noise and what comes from outside the plan, as set and scanned, dBm. */
  outsideDbm: number;
  /** The plan's own transmitters, and outsiders with a place, mW. */
  ownMw: number;
}

/** What of a link readings can teach about; null where its path has no answer. */
export function learnableOf(world: World, link: Link, answer: LinkAnswer): Learnable | null {
  if (!answer.path) return null;
  const ends = linkEnds(world, link);
  const { aToB, bToA } = answer.path;
  const learnedDb = aToB.question.path.learned?.db ?? 0;
  return {
    ...pathLeaves(world.plan, ends, answer.path),
    ...{ linkId: link.id, learnedDb },
    physicsDbm: { a: bToA.totalLevelDbm - learnedDb, b: aToB.totalLevelDbm - learnedDb },
    spareDb: spareDb(world.plan, ends, answer)!,
    noise: { a: heardNoise(bToA), b: heardNoise(aToB) },
  };
}

const milliwatts = (dbm: number) => 10 ** (dbm / 10);

function heardNoise({ noiseDbm, noise: { riseDb, outsideDb, learnedDb }, question: { to, path } }: Tape): HeardNoise {
  const thermalDbm = noiseDbm - riseDb;
  const { latDeg, lonDeg } = to.place;
  return {
    radioId: to.radio.id,
    receiver: { frequencyGHz: path.frequencyMHz / 1000, latDeg, lonDeg },
    thermalDbm,
    outsideDbm: thermalDbm + outsideDb - learnedDb,
    ownMw: milliwatts(noiseDbm) - milliwatts(thermalDbm + outsideDb),
  };
}

/** A reading of a plan that has changed by more than this since is of another link, dB. */
const OTHER_LINK_DB = 3;
/** Where a reading comes from. */
export interface ReadBy {
  linkId: string;
  from: "proof" | "watch";
  /** Share of the leaves that stood then; null where no trees that shed stand in the path. */
  leaves: number | null;
}
type ReadingOf = LearnedReading & ReadBy;

/** What was read of a plan's links, and which of them strayed. */
interface Read {
  proofs: ReturnType<typeof newestMeasurements>;
  weeks: ReadonlyMap<string, LinkWatch>;
  /** Links that an open alarm is about, unless it is that the prediction is wrong: that is what is to be learned. */
  strayed: ReadonlySet<string>;
}

export const readOf = (world: World, watched: readonly LinkWatch[]): Read => ({
  proofs: newestMeasurements(world),
  weeks: new Map(watched.map((one) => [one.linkId, one])),
  strayed: new Set(
    [...world.alarms.values()].flatMap(({ state, kind, linkIds }) =>
      state === "closed" || kind === "prediction" ? [] : linkIds,
    ),
  ),
});

/** A link read once: by how much it stood over physics with the leaves that stood then. */
type Once = Pick<ReadingOf, "from" | "errorDb"> & { leaves: number };
/** Two readings are of two seasons where the leaves differ by this share. */
const OTHER_LEAVES = 0.5;

/** Readings of today's links: proofs, and where the watch goes on, its last week; of a link through trees, one of each season. */
export function readingsOf(world: World, learnable: readonly Learnable[], read: Read): ReadingOf[] {
  return learnable.flatMap((one) => {
    const { linkId, leafDb } = one;
    const found = onesOf(world, one, read);
    return found.map(({ from, errorDb, leaves }): ReadingOf => ({
      ...{ linkId, from, errorDb, share: 1 / found.length, leaves: leafDb > 0 ? leaves : null },
      path: between(one, leaves),
    }));
  });
}

/** A path while so many of all leaves stand. */
function between({ bare, inLeaf }: Pick<Learnable, "bare" | "inLeaf">, leaves: number): LearnedCase {
  const mixed = (zero: number, one: number) => zero + leaves * (one - zero);
  return {
    ...bare,
    treesDb: mixed(bare.treesDb, inLeaf.treesDb),
    inLeafShare: mixed(bare.inLeafShare, inLeaf.inLeafShare),
  };
}

function onesOf(world: World, one: Learnable, read: Read): Once[] {
  const { linkId, path, leafDb } = one;
  const proof = read.proofs.get(linkId);
  const proven = proof ? onceProven(world, one, proof) : null;
  if (proof && !proven) return [];
  const watched = read.strayed.has(linkId) ? [] : onesWatched(world, one, read.weeks.get(linkId));
  const [first, ...others] = proven ? [proven, ...watched] : watched;
  if (!first) return [];
  const ofOtherSeason = others.find(({ leaves }) => Math.abs(leaves - first.leaves) >= OTHER_LEAVES);
  return leafDb > 0 && path.treesDb > 0 && ofOtherSeason ? [first, ofOtherSeason] : [first];
}

/** What a proof taught; null where it is of another link than today's, or of a fault. */
function onceProven(
  world: World,
  { linkId, path, physicsDbm, learnedDb, leafDb }: Learnable,
  proof: Measurement,
): Once | null {
  const { a, b } = linkEnds(world, world.links.get(linkId)!);
  const { aDbm, bDbm } = readLevelsDbm(a, b, proof);
  const physics = (physicsDbm.a + physicsDbm.b) / 2;
  const planLeaves = leavesIn(world.plan.season);
  // Meant in either season: a plan that was turned from summer to winter is the same.
  const meant = (proof.expectedADbm + proof.expectedBDbm) / 2;
  const today = physics + learnedDb;
  const inOtherSeason = today + leafDb * (2 * planLeaves - 1);
  // What most likely stands on a side lobe or lacks a chain teaches nothing about trees.
  const [lead] = judge(world.plan, a, b, proof).causes;
  const isOfThePath = !lead || lead.kind === "foliage" || lead.kind === "noise";
  const offDb = Math.min(Math.abs(meant - today), Math.abs(meant - inOtherSeason));
  if (!isOfThePath || offDb > OTHER_LINK_DB) return null;
  const leaves = leavesAt(Math.floor(Date.parse(proof.measuredAt) / DAY_MS), path.latDeg);
  return { from: "proof", errorDb: (aDbm + bDbm) / 2 - (physics - leafDb * (leaves - planLeaves)), leaves };
}

/** What the watch taught: its last week, and the other season where that is known. The promise that it was held against has the leaves of its day. */
function onesWatched(
  { plan }: World,
  { path, learnedDb, leafLearnedDb }: Learnable,
  week: LinkWatch | undefined,
): Once[] {
  if (!week || week.deviationDb === null || week.lastDay === null) return [];
  const once = ({ leaves, deviationDb }: OtherSeason): Once => ({
    // So was what was learned: more or less of it, as leaves stood.
    ...{ from: "watch", errorDb: deviationDb + learnedDb + leafLearnedDb * (leaves - leavesIn(plan.season)), leaves },
  });
  const last = once({ leaves: leavesAt(week.lastDay, path.latDeg), deviationDb: week.deviationDb });
  return week.otherSeason ? [last, once(week.otherSeason)] : [last];
}
const leavesAt = (day: number, latDeg: number): number => leafShare(dayOfYear(day), latDeg);

type NoiseReadingOf = NoiseReading & Pick<ReadBy, "linkId" | "from"> & { radioId: string };
/** Where the plan's own transmitters make more than this share of what was read, it tells nothing of what comes from outside. */
const MOST_OWN_SHARE = 0.7;

/** Noise read today at each receiver: by the proof of a link, or by the last week of the watch; each receiver counts once. */
export function noiseReadingsOf(learnable: readonly Learnable[], read: Read): NoiseReadingOf[] {
  const { proofs, weeks, strayed } = read;
  const byReceiver = new Map<string, NoiseReadingOf>();
  for (const { linkId, noise } of learnable) {
    if (strayed.has(linkId)) continue;
    const proof = proofs.get(linkId);
    const week = weeks.get(linkId);
    for (const side of ["a", "b"] as const) {
      const { radioId, receiver, thermalDbm, outsideDbm, ownMw } = noise[side];
      const proofDbm = (side === "a" ? proof?.noiseADbm : proof?.noiseBDbm) ?? null;
      // A week says more of noise than the minutes of a proof.
      const weekDbm = week?.noiseDbm[side] ?? null;
      const readDbm = weekDbm ?? proofDbm;
      if (readDbm === null || byReceiver.get(radioId)?.from === "watch") continue;
      const outsideMw = milliwatts(readDbm) - ownMw;
      if (ownMw > MOST_OWN_SHARE * milliwatts(readDbm)) continue;
      const errorDb = Math.max(thermalDbm, 10 * Math.log10(outsideMw)) - outsideDbm;
      byReceiver.set(radioId, { linkId, radioId, receiver, errorDb, from: weekDbm === null ? "proof" : "watch" });
    }
  }
  return [...byReceiver.values()];
}
