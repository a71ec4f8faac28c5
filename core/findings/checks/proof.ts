import { judge } from "../../proof";
import type { Check } from "./check";

/** A reading that did not prove its link; the way out is a new one. */
function notProven(state: "failed" | "doubtful", title: string): Check {
  return {
    id: state,
    title,
    stage: "acceptance",
    ofPath: ({ world, a, b, measurement }) => {
      const verdict = measurement && judge(world.plan, a, b, measurement);
      if (verdict?.state !== state) return [];
      const lead = verdict.causes[0];
      return [
        {
          radioId: null,
          what: verdict.summary,
          why: lead ? `${lead.title}: ${lead.reason}` : verdict.floor.text,
          figure: null,
          cause: null,
        },
      ];
    },
    remedies: (_world, { why }) => [{ label: "Write down a new reading", effect: why, patches: [], visit: true }],
  };
}

export const failed = notProven("failed", "Failed its proof");
export const doubtful = notProven("doubtful", "Doubtful proof");
