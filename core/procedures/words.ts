import type { Step } from "../plan";
import { figure } from "../words";
import { toolsOf } from "./merge";

/** What a step takes: its part, its tool and torque, and whether another goes on meanwhile. */
export function takesWords({ part, tool, torqueNm, while: partner }: Step): string {
  const withTool = torqueNm === null ? tool : `${tool || "torque wrench"}, ${figure(torqueNm)} N·m`;
  return [part, withTool, partner && "together with the step before it"].filter(Boolean).join(" · ");
}

/** Tools of some steps, with every torque that is asked of each. */
export function toolWords(steps: readonly Step[]): string {
  return toolsOf(steps)
    .map(({ tool, torquesNm }) =>
      torquesNm.length === 0 ? tool : `${tool} (${torquesNm.map((one) => figure(one)).join(", ")} N·m)`,
    )
    .join("; ");
}
