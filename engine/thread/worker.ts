// Keeps plans warm beside the thread that serves pages: their worlds, their ground, and all that is worked out of both.
import { parentPort } from "node:worker_threads";
import { withPatches, worldOf, type Patch, type Plan } from "#core/plan";
import { finished } from "#core/steps";
import type { SharedGround } from "#ground";
import type { PlanText } from "#store";
import { readRows } from "./readRows";
import { QUESTIONS, type QuestionName } from "./questions";
import { firstState, planGround, type GroundVersions, type PlanState } from "./state";
import { goBehindServing } from "../../threads";

/** A plan's ground as it is handed over. */
export interface GroundOrder {
  shared: SharedGround;
  versions: GroundVersions;
}
export type Order =
  | { kind: "open"; key: string; plan: Plan; lists: PlanText["lists"]; revision: number; ground: GroundOrder }
  | { kind: "step"; key: string; patches: Patch[]; revision: number; ground: GroundOrder | null }
  | { kind: "drop"; key: string }
  | { kind: "ask"; id: number; key: string; name: QuestionName; asked: unknown };
export type Reply = { id: number; answer: unknown } | { id: number; failed: string };

goBehindServing(true);
const port = parentPort!;
const states = new Map<string, PlanState>();

const groundOf = ({ shared, versions }: GroundOrder) => planGround(shared, versions);

async function answer({ id, key, name, asked }: Extract<Order, { kind: "ask" }>): Promise<Reply> {
  try {
    const state = states.get(key);
    if (!state) throw new Error(`the plan ${key} is not open here`);
    const ask = QUESTIONS[name] as (state: PlanState, asked: unknown) => unknown;
    return { id, answer: await ask(state, asked) };
  } catch (error) {
    return { id, failed: error instanceof Error ? error.message : String(error) };
  }
}

port.on("message", (order: Order) => {
  const { key } = order;
  if (order.kind === "open")
    states.set(key, firstState(worldOf(finished(readRows(order))), groundOf(order.ground), order.revision));
  else if (order.kind === "drop") states.delete(key);
  else if (order.kind === "step") {
    const before = states.get(key)!;
    const world = withPatches(before.world, order.patches);
    states.set(key, before.next(world, order.patches, order.revision, order.ground && groundOf(order.ground)));
  } else void answer(order).then((reply) => port.postMessage(reply));
});
