import { linkEnds, linksOn, radioPatches, type Patch, type Link, type World } from "../plan";
import type { ProfileSource } from "../outcome";
import { trialOf, type Change } from "../trial";
import { powerWithinCapDbm } from "../kit";
import { simpleChanges } from "../findings";
import { ruleUse } from "../regulation";
import { compareBands } from "./bands";
import { channelsMHz } from "../propose";
import { searchMoves, type HeatPoint } from "./moves";
import type { HeightAt } from "../terrain";
import { searchRelayPeaks, searchRelaySites } from "./relays";
import { byOutcomeAndCost, effectText, isBetter, tryPatches, type WayOut } from "./try";

/** What is to be searched for one link. */
export interface SearchAsk {
  linkId: string;
  /** How far either end may move, m; 0 keeps it. */
  moveAM: number;
  moveBM: number;
  /** Height of a mast put on high ground, m; 0 looks at no high ground. */
  mastM: number;
}

export interface SearchResult {
  ways: WayOut[];
  /** What the path would be from places about either end. */
  heatA: HeatPoint[];
  heatB: HeatPoint[];
  /** Changes that were tried. */
  triedCount: number;
}

export interface SearchProgress {
  doneShare: number;
  message: string;
}

/** Ways of one kind that are shown; more would bury the others. */
const MOST_OF_A_KIND = 3;
/** Channels of the radios' own band that are tried. */
const MOST_CHANNELS = 24;

/** The same link on other channels of its radios' band, as many as its rule set and raster allow, evenly spread. */
function* otherChannels(world: World, link: Link): Generator<Change> {
  const { a, b } = linkEnds(world, link);
  const shared = linksOn(world, link.aRadioId).some(({ id }) => id !== link.id);
  if (shared) return;
  const low = Math.max(...[a, b].flatMap((end) => [end.model.bandMHz[0], end.antenna.bandMHz[0]]));
  const high = Math.min(...[a, b].flatMap((end) => [end.model.bandMHz[1], end.antenna.bandMHz[1]]));
  const { widthMHz } = a.radio;
  const centres = channelsMHz(world, ruleUse(link.kind), widthMHz).filter(
    (centre) => centre - widthMHz / 2 >= low && centre + widthMHz / 2 <= high,
  );
  const every = Math.max(1, Math.ceil(centres.length / MOST_CHANNELS));
  const use = ruleUse(link.kind);
  for (let i = 0; i < centres.length; i += every) {
    const frequencyMHz = centres[i]!;
    if (frequencyMHz === a.radio.frequencyMHz) continue;
    yield {
      label: `Channel ${frequencyMHz} MHz instead of ${a.radio.frequencyMHz}`,
      patches: [a, b].flatMap((end) => {
        const radio = { ...end.radio, carrierId: a.radio.carrierId, frequencyMHz };
        radio.txPowerDbm = powerWithinCapDbm(world, { ...end, radio }, use);
        return radioPatches(world, radio);
      }),
    };
  }
}

/** Passes a part's share done on as a share of the whole. */
function* part<T>(work: Generator<number, T>, from: number, to: number, message: string): Generator<SearchProgress, T> {
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
    yield { doneShare: from + (to - from) * step.value, message };
  }
}

/**
 * Everything that could make one link work or work better: heights, power, antennas, radios and bands, channels, another
 * sector, moves of either end, relays over other sites and over high ground. Each is tried on all the links that it makes,
 * kept only if it is better than what there is, and ranked by outcome and cost. Yields progress between tries.
 */
export function* searchWaysOut(
  world: World,
  ask: SearchAsk,
  heightAt: HeightAt,
  profileBetween: ProfileSource,
  makeId: () => string,
): Generator<SearchProgress, SearchResult> {
  const link = world.links.get(ask.linkId);
  if (!link) throw new RangeError(`link ${ask.linkId} is not in the plan`);
  const before = trialOf(world, profileBetween);
  const now = before.answer(link.id);
  const isServedNow = before.isServed(link.id);
  const ways: WayOut[] = [];
  let triedCount = 0;
  const consider = (kind: WayOut["kind"], label: string, patches: Patch[]) => {
    triedCount++;
    const found = tryPatches(before, patches, [link.id]);
    if (!found || !isBetter(now, isServedNow, found.outcome)) return;
    const effect = effectText(found.outcome, found.costEur);
    ways.push({ kind, label, effect, caution: "", patches, costEur: found.costEur, outcome: found.outcome });
  };

  yield { doneShare: 0, message: "Heights, power and antennas" };
  for (const { kind, label, patches } of simpleChanges(world, link, now, profileBetween))
    consider(kind, label, patches);
  yield { doneShare: 0.05, message: "Channels" };
  for (const { label, patches } of otherChannels(world, link)) consider("channel", label, patches);
  yield { doneShare: 0.1, message: "Bands and radios" };
  const demandMbps = linkEnds(world, link).b.demand?.downMbps ?? 0;
  for (const { band, result, patches } of compareBands(world, link, demandMbps, profileBetween, makeId)) {
    if (result) consider("band", `${band}: ${result.aRadio} and ${result.bRadio} with ${result.bAntenna}`, patches);
  }
  const better = (found: { ways: WayOut[]; triedCount: number }) => {
    triedCount += found.triedCount;
    ways.push(...found.ways.filter(({ outcome }) => isBetter(now, isServedNow, outcome)));
  };
  const heat: Record<"a" | "b", HeatPoint[]> = { a: [], b: [] };
  for (const [end, radiusM, from] of [
    ["a", ask.moveAM, 0.2],
    ["b", ask.moveBM, 0.35],
  ] as const) {
    if (radiusM <= 0) continue;
    const name = linkEnds(world, link)[end].placeName;
    const found = yield* part(
      searchMoves(world, link, end, radiusM, profileBetween),
      from,
      from + 0.15,
      `Moves of ${name}`,
    );
    heat[end] = found.heat;
    better({ ways: found.ways, triedCount: found.heat.length });
  }
  // A relay costs a site and a hop: it is offered where the link does not stand by itself.
  if (!isServedNow || now.state === "blocked") {
    better(yield* part(searchRelaySites(world, link, profileBetween, makeId), 0.5, 0.6, "Relays over other sites"));
    if (ask.mastM > 0)
      better(
        yield* part(
          searchRelayPeaks(world, link, ask.mastM, heightAt, profileBetween, makeId),
          0.6,
          1,
          "Relays on high ground",
        ),
      );
  }
  const anyServes = ways.some(({ outcome }) => outcome.served);
  const shown = new Map<WayOut["kind"], number>();
  const labels = new Set<string>();
  const ranked = ways.sort(byOutcomeAndCost).filter(({ kind, label, outcome }) => {
    if ((anyServes && !outcome.served) || labels.has(label)) return false;
    labels.add(label);
    const count = (shown.get(kind) ?? 0) + 1;
    shown.set(kind, count);
    return count <= MOST_OF_A_KIND;
  });
  return { ways: ranked.map(withUnmet), heatA: heat.a, heatB: heat.b, triedCount };
}

/** A way out that says which criterion of the plan it does not meet. */
const withUnmet = (way: WayOut): WayOut => ({
  ...way,
  caution: [way.caution, way.outcome.unmet].filter((text) => text !== "").join("; "),
});
