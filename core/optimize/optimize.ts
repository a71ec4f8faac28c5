import { inverseGeodesic } from "../geodesy";
import { evaluate, evaluateAfter, type Evaluation } from "../evaluate";
import type { ProfileSource } from "../outcome";
import { mergePatches, removalOf, type Patch, type Subscriber, type World } from "../plan";
import { counted } from "../words";
import { customerMoves, sectorMoves, sparingMoves, type Freedom, type Move } from "./moves";
import { isBetter, worthOf, type Worth } from "./worth";

/** Which sectors may be changed, and in what. */
export interface OptimizeAsk {
  siteIds: readonly string[];
  may: readonly Freedom[];
  /** Customers as far as this from one of the sites may be linked. */
  reachKm: number;
}

/** One point of the trade: what the sectors come to after some steps, each of which is explained. */
export interface TradePoint extends Worth {
  steps: string[];
  patches: Patch[];
}

interface Optimizing {
  doneShare: number;
  message: string;
  /** One more point of the trade. */
  point: TradePoint | null;
}

/** Rounds over all sectors; what a round did not better is left. */
const MOST_ROUNDS = 4;

/**
 * Betters the sectors of some sites, one change after another: whatever the sectors' own customers ask for is tried on the whole plan
 * and kept where more people are served at their demand; then where rates are better; then where less ground is lit for nobody. From
 * the best it then steps down: first to the power and antennas that light least and serve as many, then sector by sector, taking away
 * what serves fewest people for the ground it lights. Yields every point
 * reached; whoever stops it has the best so far.
 */
export function* optimizeSectors(
  world: World,
  ask: OptimizeAsk,
  between: ProfileSource,
  makeId: () => string,
): Generator<Optimizing, void> {
  const siteIds = new Set(ask.siteIds);
  const may = new Set(ask.may);
  const start = evaluate(world, between);
  const begin: State = { evaluation: start, worth: worthOf(start, siteIds), steps: [], patches: [] };
  yield { doneShare: 0, message: wordsOf(begin.worth), point: pointOf(begin) };

  let best = begin;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const before = best;
    const moved = sectorsOf(best.evaluation.world, siteIds);
    for (const [i, id] of moved.entries()) {
      const doneShare = (0.8 * (round + i / moved.length)) / MOST_ROUNDS;
      yield { doneShare, message: wordsOf(best.worth), point: null };
      // Each kind of change is looked for from where the last one led.
      for (const freedom of may) {
        const { world: now } = best.evaluation;
        for (const move of sectorMoves(now, now.radios.get(id)!, new Set([freedom]), between)) {
          const next = tried(best, move, siteIds, between);
          if (isBetter(next.worth, best.worth)) {
            best = next;
            yield { doneShare, message: wordsOf(best.worth), point: pointOf(best) };
          }
        }
      }
    }
    if (may.has("customers"))
      for (const subscriber of unservedNear(best.evaluation, ask))
        for (const move of customerMoves(best.evaluation.world, ask.siteIds, [subscriber], makeId)) {
          const next = tried(best, move, siteIds, between);
          if (!isBetter(next.worth, best.worth)) continue;
          best = next;
          yield { doneShare: (0.8 * (round + 1)) / MOST_ROUNDS, message: wordsOf(best.worth), point: pointOf(best) };
          break;
        }
    if (best === before) break;
  }
  if (may.has("power") || may.has("antenna")) best = yield* sparing(best, siteIds, may, between);
  yield* steppingDown(best, siteIds, between);
}

interface State {
  evaluation: Evaluation;
  worth: Worth;
  steps: string[];
  patches: Patch[];
}

const pointOf = ({ worth, steps, patches }: State): TradePoint => ({ ...worth, steps, patches });
const wordsOf = ({ customersServed, peopleServed, strayKm2 }: Worth) =>
  `${counted(customersServed, "customer")} served, ${counted(peopleServed, "person", "people")}; ${strayKm2.toFixed(0)} km² lit for nobody`;
const sectorsOf = (world: World, siteIds: ReadonlySet<string>): string[] =>
  [...world.radios.values()].flatMap(({ id, siteId, role }) =>
    role === "sector" && siteIds.has(siteId ?? "") ? [id] : [],
  );

function tried(from: State, { words, patches }: Move, siteIds: ReadonlySet<string>, between: ProfileSource): State {
  const evaluation = evaluateAfter(from.evaluation, patches, between);
  return {
    evaluation,
    worth: worthOf(evaluation, siteIds),
    steps: [...from.steps, words],
    patches: mergePatches(from.patches, patches),
  };
}

/** Customers within reach whom no link serves, the nearest first. */
function unservedNear({ world, summaries }: Evaluation, { siteIds, reachKm }: OptimizeAsk): Subscriber[] {
  const served = new Set(
    [...world.links.values()].flatMap(({ id, bRadioId }) =>
      summaries.get(id)?.served ? [world.radios.get(bRadioId)?.subscriberId ?? ""] : [],
    ),
  );
  const sites = siteIds.flatMap((id) => world.sites.get(id) ?? []);
  const distance = new Map(
    [...world.subscribers.values()]
      .filter(({ id, status }) => !served.has(id) && status !== "declined")
      .map((one) => [one, Math.min(...sites.map((site) => inverseGeodesic(site, one).distanceM))] as const),
  );
  return [...distance.keys()]
    .filter((one) => distance.get(one)! <= reachKm * 1000)
    .sort((x, y) => distance.get(x)! - distance.get(y)!);
}

/** Gives every sector the power and the antenna that light least for nobody, and still serve as many people: rates may fall. */
function* sparing(
  from: State,
  siteIds: ReadonlySet<string>,
  may: ReadonlySet<Freedom>,
  between: ProfileSource,
): Generator<Optimizing, State> {
  let now = from;
  for (const id of sectorsOf(from.evaluation.world, siteIds)) {
    const { world } = now.evaluation;
    let least = now;
    for (const move of sparingMoves(world, world.radios.get(id)!, may, between)) {
      const next = tried(now, move, siteIds, between);
      if (next.worth.peopleServed >= now.worth.peopleServed && next.worth.strayKm2 < least.worth.strayKm2) least = next;
    }
    if (least === now) continue;
    now = least;
    yield { doneShare: 0.8, message: wordsOf(now.worth), point: pointOf(now) };
  }
  return now;
}

/** Takes away one sector after another, that which loses fewest people for the ground it lights first. */
function* steppingDown(from: State, siteIds: ReadonlySet<string>, between: ProfileSource): Generator<Optimizing, void> {
  const count = sectorsOf(from.evaluation.world, siteIds).length;
  let now = from;
  for (let i = 0; i < count - 1; i++) {
    let next: { state: State; lost: number } | null = null;
    for (const id of sectorsOf(now.evaluation.world, siteIds)) {
      const { world } = now.evaluation;
      const words = `take ${world.radios.get(id)!.name} down`;
      const state = tried(
        now,
        { words, patches: removalOf(world, [{ kind: "radios", id }]).patches },
        siteIds,
        between,
      );
      const sparedKm2 = Math.max(1e-3, now.worth.strayKm2 - state.worth.strayKm2);
      const lost = (now.worth.peopleServed - state.worth.peopleServed) / sparedKm2;
      if (!next || lost < next.lost) next = { state, lost };
    }
    if (!next) return;
    now = next.state;
    yield { doneShare: 0.8 + (0.2 * (i + 1)) / count, message: wordsOf(now.worth), point: pointOf(now) };
  }
}

/** Points of a trade that no other one beats in people served, rates, ground lit for nobody and price at once; most people first. */
export function tradeCurve(points: readonly TradePoint[]): TradePoint[] {
  const gains = (x: TradePoint, y: TradePoint) => [
    x.peopleServed - y.peopleServed,
    x.rateScore - y.rateScore,
    y.strayKm2 - x.strayKm2,
    y.costEur - x.costEur,
  ];
  const beats = (x: TradePoint, y: TradePoint) => {
    const all = gains(x, y);
    return all.every((gain) => gain >= 0) && all.some((gain) => gain > 0);
  };
  const kept: TradePoint[] = [];
  const unbeaten = points
    .filter((one) => !points.some((other) => other !== one && beats(other, one)))
    .sort((x, y) => y.peopleServed - x.peopleServed || x.strayKm2 - y.strayKm2);
  for (const one of unbeaten) if (!kept.some((other) => isAlike(one, other))) kept.push(one);
  return kept;
}

/** Points that nobody would choose between: as many people, and nearly the same rates, ground and price. */
function isAlike(one: TradePoint, other: TradePoint): boolean {
  return (
    one.peopleServed === other.peopleServed &&
    Math.abs(one.rateScore - other.rateScore) < 0.02 &&
    Math.abs(one.strayKm2 - other.strayKm2) <= 0.05 * other.strayKm2 &&
    Math.abs(one.costEur - other.costEur) <= 0.01 * other.costEur
  );
}
