import loadHighs from "highs";

/** Radios that choose a channel each, what each channel costs each of them, and what two of them cost each other. */
export interface ChannelsQuestion {
  /** Of radio r on its c-th channel; not below 0. Radios may have different channels to choose from. */
  ownCosts: readonly (readonly number[])[];
  /** Pairs that disturb each other, by the channel of each; not below 0. */
  couplings: readonly { a: number; b: number; costs: readonly (readonly number[])[] }[];
  /** Channels that are not to be changed, by radio; null or left out where one is free. */
  fixed?: readonly (number | null)[];
  /** How long may be looked for better ones. */
  seconds: number;
  seed?: number;
}

interface ChosenChannels {
  /** The channel of each radio, by its place in `ownCosts`. */
  choice: number[];
  cost: number;
  /** No choice costs less; what is proven so far. */
  lowerBound: number;
}

/** Share of the time that goes to looking for good choices before a bound is proven. */
const LOOKING_SHARE = 0.3;
const ROUNDING = 1e-9;

/**
 * The channels that cost least in sum. Choices are bettered radio by radio from many beginnings first; what they leave open is closed
 * by an exact mixed-integer program whose bound is true whenever it stops. The same seed gives the same choice, time permitting. Throws
 * RangeError for what is no question.
 */
export async function assignChannels(
  question: ChannelsQuestion,
  onBetter: (now: ChosenChannels) => void = () => undefined,
): Promise<ChosenChannels> {
  check(question);
  const least = leastAlone(question);
  const ends = Date.now() + question.seconds * 1000;
  const found = searched(question, least, Date.now() + question.seconds * 1000 * LOOKING_SHARE, (choice, cost) =>
    onBetter({ choice: [...choice], cost, lowerBound: least }),
  );
  if (found.cost <= least + ROUNDING) return { ...found, lowerBound: found.cost };
  return closed(question, found, least, Math.max(0.5, (ends - Date.now()) / 1000), onBetter);
}

function check({ ownCosts, couplings, fixed = [] }: ChannelsQuestion): void {
  ownCosts.forEach((costs, r) => {
    if (costs.length === 0) throw new RangeError(`radio ${r} has no channel to choose from`);
    const bad = costs.find((cost) => !(cost >= 0));
    if (bad !== undefined) throw new RangeError(`a cost of radio ${r} is ${bad}; it must be 0 or more`);
    const set = fixed[r];
    if (set != null && !(Number.isInteger(set) && set >= 0 && set < costs.length))
      throw new RangeError(`radio ${r} is fixed to channel ${set}; it has ${costs.length}`);
  });
  couplings.forEach(({ a, b, costs }, i) => {
    for (const r of [a, b])
      if (!ownCosts[r]) throw new RangeError(`coupling ${i} names radio ${r}; there are ${ownCosts.length}`);
    if (a === b) throw new RangeError(`coupling ${i} couples radio ${a} with itself`);
    if (costs.length !== ownCosts[a]!.length || costs.some((row) => row.length !== ownCosts[b]!.length))
      throw new RangeError(`coupling ${i} must have ${ownCosts[a]!.length} rows of ${ownCosts[b]!.length}`);
    if (costs.some((row) => row.some((cost) => !(cost >= 0)))) throw new RangeError(`coupling ${i} has a cost below 0`);
  });
}

/** Channels that a radio may take. */
function openTo({ ownCosts, fixed = [] }: ChannelsQuestion, r: number): number[] {
  const set = fixed[r];
  return set == null ? [...ownCosts[r]!.keys()] : [set];
}

/** What all radios cost at the least, nobody disturbing anybody. */
const leastAlone = (question: ChannelsQuestion): number =>
  question.ownCosts.reduce((sum, costs, r) => sum + Math.min(...openTo(question, r).map((c) => costs[c]!)), 0);

/** Draws evenly from 0 to 1, the same for the same seed: a linear congruence modulo 2³². */
function drawing(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

/** Radios that disturb one, each with its costs by own channel and by the other's. */
type Neighbours = readonly (readonly { other: number; costs: readonly (readonly number[])[] }[])[];

function neighboursOf({ ownCosts, couplings }: ChannelsQuestion): Neighbours {
  const neighbours: { other: number; costs: readonly (readonly number[])[] }[][] = ownCosts.map(() => []);
  for (const { a, b, costs } of couplings) {
    neighbours[a]!.push({ other: b, costs });
    neighbours[b]!.push({ other: a, costs: costs[0]!.map((_, cb) => costs.map((row) => row[cb]!)) });
  }
  return neighbours;
}

/**
 * Good choices by a tabu search: the single change that betters most, or worsens least, is made, and not taken back for a while. Begun
 * anew from a shaken best one whenever it has found nothing for long.
 */
function searched(
  question: ChannelsQuestion,
  least: number,
  until: number,
  onBetter: (choice: readonly number[], cost: number) => void,
): { choice: number[]; cost: number } {
  const { ownCosts, seed = 1 } = question;
  const draw = drawing(seed);
  const neighbours = neighboursOf(question);
  const open = ownCosts.map((_, r) => openTo(question, r));
  const movable = open.flatMap((channels, r) => (channels.length > 1 ? [r] : []));
  // What each radio would cost on each channel with everybody else as they are.
  const choice = open.map((channels, r) =>
    channels.reduce((best, c) => (ownCosts[r]![c]! < ownCosts[r]![best]! ? c : best)),
  );
  const at = ownCosts.map((costs) => Float64Array.from(costs));
  const settle = () => {
    at.forEach((costs, r) => {
      costs.set(ownCosts[r]!);
      for (const { other, costs: pair } of neighbours[r]!)
        for (let c = 0; c < costs.length; c++) costs[c]! += pair[c]![choice[other]!]!;
    });
  };
  const put = (r: number, c: number) => {
    const before = choice[r]!;
    choice[r] = c;
    for (const { other, costs } of neighbours[r]!) {
      const theirs = at[other]!;
      for (let k = 0; k < theirs.length; k++) theirs[k]! += costs[c]![k]! - costs[before]![k]!;
    }
  };
  settle();
  let best = { choice: [...choice], cost: channelsCost(question, choice) };
  onBetter(best.choice, best.cost);
  let cost = best.cost;
  const barredUntil = ownCosts.map((costs) => new Int32Array(costs.length));
  let sinceBetter = 0;
  for (let step = 1; best.cost > least + ROUNDING && movable.length > 0; step++) {
    if (step % 64 === 0 && Date.now() >= until) break;
    let [bestR, bestC, bestGain] = [-1, -1, Infinity];
    for (const r of movable) {
      const costs = at[r]!;
      const now = costs[choice[r]!]!;
      for (const c of open[r]!) {
        const gain = costs[c]! - now;
        if (c === choice[r] || gain > bestGain) continue;
        const isBarred = barredUntil[r]![c]! > step && cost + gain >= best.cost - ROUNDING;
        if (isBarred || (gain === bestGain && draw() < 0.5)) continue;
        [bestR, bestC, bestGain] = [r, c, gain];
      }
    }
    if (bestR >= 0) {
      barredUntil[bestR]![choice[bestR]!] = step + 4 + Math.floor(draw() * (4 + movable.length / 4));
      put(bestR, bestC);
      cost += bestGain;
    }
    if (cost < best.cost - ROUNDING) {
      best = { choice: [...choice], cost: channelsCost(question, choice) };
      cost = best.cost;
      sinceBetter = 0;
      onBetter(best.choice, best.cost);
    } else if (bestR < 0 || ++sinceBetter > SHAKE_AFTER) {
      best.choice.forEach((c, r) => (choice[r] = c));
      for (const r of movable) if (draw() < SHAKEN_SHARE) choice[r] = open[r]![Math.floor(draw() * open[r]!.length)]!;
      settle();
      cost = channelsCost(question, choice);
      sinceBetter = 0;
    }
  }
  return best;
}
const SHAKE_AFTER = 400;
const SHAKEN_SHARE = 0.3;

/** What a choice costs in sum. */
export function channelsCost({ ownCosts, couplings }: ChannelsQuestion, choice: readonly number[]): number {
  const own = ownCosts.reduce((sum, costs, r) => sum + costs[choice[r]!]!, 0);
  return couplings.reduce((sum, { a, b, costs }) => sum + costs[choice[a]!]![choice[b]!]!, own);
}

/** Closes what is open between the best choice and the bound. */
async function closed(
  question: ChannelsQuestion,
  found: { choice: number[]; cost: number },
  least: number,
  seconds: number,
  onBetter: (now: ChosenChannels) => void,
): Promise<ChosenChannels> {
  const highs = await loadHighs();
  const program = programOf(question);
  return highs.withModel({ format: "lp", data: program }, (model) => {
    model.options.set({ output_flag: false, time_limit: seconds, mip_rel_gap: 0, random_seed: 1 });
    model.run();
    const bound = Number(model.info.get("mip_dual_bound"));
    const isFound = Number(model.info.get("primal_solution_status")) === highs.constants.solutionStatus.feasible;
    let best = found;
    if (isFound) {
      const names = nameOrder(program);
      const values = model.getSolution().colValue;
      const choice = question.ownCosts.map((_, r) =>
        openTo(question, r).reduce((one, c) =>
          values[names.get(`x${r}_${c}`)!]! > values[names.get(`x${r}_${one}`)!]! ? c : one,
        ),
      );
      const own = channelsCost(question, choice);
      if (own < best.cost) best = { choice, cost: own };
    }
    // Only the solver's own dual bound is a proof: of what it had no time to look at it says nothing.
    const proven = Math.max(least, Number.isFinite(bound) ? bound : least);
    const isClosed = proven >= best.cost - SOLVER_TOLERANCE * Math.max(1, best.cost);
    const answer = { ...best, lowerBound: isClosed ? best.cost : proven };
    onBetter(answer);
    return answer;
  });
}

/** What the solver leaves open between its bound and its best is rounding. */
const SOLVER_TOLERANCE = 1e-6;

/** Columns of a program in the order in which they first stand in it. */
function nameOrder(program: string): Map<string, number> {
  const names = new Map<string, number>();
  for (const name of program.split("Subject To")[0]!.match(/[xw]\d+(_\d+)+/g) ?? [])
    if (!names.has(name)) names.set(name, names.size);
  return names;
}

/**
 * The program in LP format: x a radio's channel, w a pair of channels of two radios that cost something. It is exact: a radio on a channel
 * either pays for the other's channel, or the other is where it costs nothing; and nobody pays for a channel on which neither stands, so that
 * with whole x the one pair that is paid for is the one that is used.
 */
function programOf(question: ChannelsQuestion): string {
  const { ownCosts, couplings } = question;
  const open = ownCosts.map((_, r) => openTo(question, r));
  const cost: string[] = [];
  const rows: string[] = [];
  open.forEach((channels, r) => {
    channels.forEach((c) => cost.push(`${ownCosts[r]![c]!} x${r}_${c}`));
    rows.push(`o${r}: ${channels.map((c) => `x${r}_${c}`).join(" + ")} = 1`);
  });
  couplings.forEach(({ a, b, costs }, i) => {
    const side = (
      own: number,
      other: number,
      at: (c: number, k: number) => number,
      w: (c: number, k: number) => string,
      tag: string,
    ) =>
      open[own]!.forEach((c) => {
        const paid = open[other]!.filter((k) => at(c, k) > 0);
        if (paid.length === 0) return;
        const free = open[other]!.filter((k) => at(c, k) === 0).map((k) => ` + x${other}_${k}`);
        // Whoever is on this channel either pays for the other's, or the other is where it costs nothing.
        const pays = paid.map((k) => w(c, k)).join(" + ");
        rows.push(`${tag}${i}_${c}: ${pays}${free.join("")} - x${own}_${c} >= 0`);
        rows.push(`${tag}t${i}_${c}: ${pays} - x${own}_${c} <= 0`);
      });
    side(
      a,
      b,
      (c, k) => costs[c]![k]!,
      (c, k) => `w${i}_${c}_${k}`,
      "a",
    );
    side(
      b,
      a,
      (c, k) => costs[k]![c]!,
      (c, k) => `w${i}_${k}_${c}`,
      "b",
    );
    for (const ca of open[a]!)
      for (const cb of open[b]!) if (costs[ca]![cb]! > 0) cost.push(`${costs[ca]![cb]!} w${i}_${ca}_${cb}`);
  });
  return [
    "Minimize",
    ` cost: ${cost.join(" + ")}`,
    "Subject To",
    ...rows.map((row) => ` ${row}`),
    "Binary",
    ` ${open.flatMap((channels, r) => channels.map((c) => `x${r}_${c}`)).join(" ")}`,
    "End",
  ].join("\n");
}
