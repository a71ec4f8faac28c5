import { startOf } from "./facts";
import type { Plan } from "./kinds";

/** A plan's settings before anybody chose: what serves most networks without study. */
export function newPlan(own: Pick<Plan, "id" | "name" | "createdAt"> & Partial<Plan>): Plan {
  const open = { ruleSetId: "cfr47", rainRate001MmPerH: null, isDemo: false };
  return { ...startOf("plans"), ...open, ...own } as Plan;
}
