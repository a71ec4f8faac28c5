// Keeps plans warm beside the thread that serves pages: their worlds, their ground, and all that is worked out of both.
import { withPatches, worldOf, type Patch, type Plan } from "#core/plan";
import { finished } from "#core/steps";
import type { SharedGround } from "#ground";
import type { PlanText } from "#store";
import { readRows } from "./readRows";
import { QUESTIONS, type QuestionName } from "./questions";
import { firstState, planGround, type GroundVersions, type PlanState } from "./state";
import { exposeTasks, goBehindServing } from "../../threads";

/** A plan's ground as it is handed over. */
export interface GroundOrder {
  shared: SharedGround;
  versions: GroundVersions;
}
interface Opened extends Pick<PlanText, "lists"> {
  plan: Plan;
  revision: number;
  ground: GroundOrder;
}
interface Stepped {
  patches: Patch[];
  revision: number;
  ground: GroundOrder | null;
}

goBehindServing(true);
const states = new Map<string, PlanState>();

const groundOf = ({ shared, versions }: GroundOrder) => planGround(shared, versions);

const engine = {
  /** Takes a plan with its rows as the database wrote them down. */
  open(key: string, { plan, lists, revision, ground }: Opened): void {
    states.set(key, firstState(worldOf(finished(readRows({ plan, lists }))), groundOf(ground), revision));
  },
  /** Takes a plan on to its next revision. */
  step(key: string, { patches, revision, ground }: Stepped): void {
    const before = states.get(key)!;
    const world = withPatches(before.world, patches);
    states.set(key, before.next(world, patches, revision, ground && groundOf(ground)));
  },
  drop(key: string): void {
    states.delete(key);
  },
  async ask(key: string, name: QuestionName, asked: unknown): Promise<unknown> {
    const state = states.get(key);
    if (!state) throw new Error(`the plan ${key} is not open here`);
    return (QUESTIONS[name] as (state: PlanState, asked: unknown) => unknown)(state, asked);
  },
};
export type EngineTasks = typeof engine;

exposeTasks(engine);
