import type { Procedure, Step } from "../plan";

/** Where a procedure is followed. */
export interface Where {
  ruleSetId: string;
  /** Which way the path looks from this end. */
  looks: "up" | "down";
}

/** One sheet out of several procedures, or the steps that wait for each other in a circle. */
type Merged = { steps: Step[]; circle: null } | { steps: null; circle: Step[] };

const applies = ({ when }: Step, { ruleSetId, looks }: Where) =>
  (when.ruleSetIds.length === 0 || when.ruleSetIds.includes(ruleSetId)) &&
  (when.looks === null || when.looks === looks);

/**
 * Merges procedures into one sheet that keeps every `before`, `after` and `while`. Of two steps with one id the later procedure's stands, in the
 * earlier one's place, with the constraints of both: what is particular takes the place of what is general. Steps stand in the
 * order in which the procedures tell them, each after whatever it waits for. A set that contradicts itself gives the shortest circle found.
 */
export function mergeProcedures(procedures: readonly Procedure[], where: Where): Merged {
  const steps = new Map<string, Step>();
  for (const { steps: own } of procedures)
    for (const step of own) {
      if (!applies(step, where)) continue;
      const known = steps.get(step.id);
      steps.set(
        step.id,
        known
          ? {
              ...step,
              before: [...known.before, ...step.before],
              after: [...known.after, ...step.after],
              while: step.while ?? known.while,
            }
          : step,
      );
    }
  const leader = leadersOf(steps);
  const waitsFor = new Map<string, Set<string>>([...steps.keys()].map((id) => [id, new Set<string>()]));
  for (const { id, before, after } of steps.values()) {
    for (const other of before) waitsFor.get(other)?.add(id);
    for (const other of after) if (steps.has(other)) waitsFor.get(id)!.add(other);
  }
  // Steps that go on together stand together: their first one waits for whatever any of them waits for.
  for (const id of steps.keys()) {
    const first = leader(id);
    if (first === id) continue;
    for (const other of waitsFor.get(id)!) if (leader(other) !== first) waitsFor.get(first)!.add(other);
    waitsFor.get(id)!.add(steps.get(id)!.while!);
  }
  const order: Step[] = [];
  const placed = new Map<string, "waiting" | "done">();
  /** Puts a step with all that it waits for before it; false where it waits for itself. */
  const place = (id: string): boolean => {
    if (placed.has(id)) return placed.get(id) === "done";
    placed.set(id, "waiting");
    // In the order in which they are told.
    for (const other of steps.keys()) if (waitsFor.get(id)!.has(other) && !place(other)) return false;
    placed.set(id, "done");
    order.push(steps.get(id)!);
    return true;
  };
  for (const id of steps.keys())
    if (!place(id)) return { steps: null, circle: circleIn(waitsFor).map((one) => steps.get(one)!) };
  return { steps: order.filter(({ id }) => leader(id) === id).flatMap(({ id }) => together(id)), circle: null };

  /** A first step with all that go on with it, in their order. */
  function together(first: string): Step[] {
    return order.filter(({ id }) => leader(id) === first);
  }
}

/** For each step the first of those that go on together: itself, or where its `while` leads. */
function leadersOf(steps: ReadonlyMap<string, Step>): (id: string) => string {
  return (id) => {
    const seen = new Set([id]);
    let at = id;
    for (let next = steps.get(at)?.while; next && steps.has(next) && !seen.has(next); next = steps.get(at)?.while) {
      seen.add(next);
      at = next;
    }
    return at;
  };
}

/** The shortest circle of steps that each wait for the next. */
function circleIn(waitsFor: ReadonlyMap<string, ReadonlySet<string>>): string[] {
  let shortest: string[] | null = null;
  for (const start of waitsFor.keys()) {
    const cameFrom = new Map<string, string | null>([[start, null]]);
    const queue = [start];
    for (let at = queue.shift(); at !== undefined; at = queue.shift())
      for (const next of waitsFor.get(at)!) {
        if (next === start) {
          const circle: string[] = [];
          for (let back: string | null = at; back !== null; back = cameFrom.get(back)!) circle.unshift(back);
          if (!shortest || circle.length < shortest.length) shortest = circle;
          queue.length = 0;
          break;
        }
        if (!cameFrom.has(next)) {
          cameFrom.set(next, at);
          queue.push(next);
        }
      }
  }
  return shortest ?? [];
}

/** Steps that wait for each other, in words: "seal waits for aim waits for seal". */
export const circleWords = (circle: readonly Step[]): string =>
  [...circle, circle[0]!].map(({ id }) => id).join(" waits for ");

/** Tools of some steps, each once, with the torques that are asked of it. */
export function toolsOf(steps: readonly Step[]): { tool: string; torquesNm: number[] }[] {
  const tools = new Map<string, Set<number>>();
  for (const { tool, torqueNm } of steps) {
    if (tool === "") continue;
    const own = tools.get(tool) ?? new Set<number>();
    if (torqueNm !== null) own.add(torqueNm);
    tools.set(tool, own);
  }
  return [...tools].map(([tool, torques]) => ({ tool, torquesNm: [...torques].sort((x, y) => x - y) }));
}

export const minutesOf = (steps: readonly Step[]): number => steps.reduce((sum, { minutes }) => sum + minutes, 0);
