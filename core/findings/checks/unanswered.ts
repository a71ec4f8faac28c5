import type { LinkAnswer } from "../../link";
import type { Check } from "./check";

/** Why a path has no answer, and what that means. */
function problemWords({ problem, distanceM }: LinkAnswer): [what: string, why: string] {
  switch (problem?.kind) {
    case "hole":
      return [
        `the terrain has a hole of ${problem.count} samples from ${problem.firstKm.toFixed(2)} km on`,
        "Unknown ground is not sea level: fill the hole before trusting the path.",
      ];
    case "notFinite":
      return [
        `its ${problem.figure} comes out as no number`,
        "A figure that is none is not shown. Check heights, kit and ground at both ends.",
      ];
    default:
      return [
        `the ends are ${distanceM.toFixed(1)} m apart`,
        "Both ends stand at one place; there is no path between them.",
      ];
  }
}

export const unanswered: Check = {
  id: "unanswered",
  title: "No answer",
  stage: "paths",
  isBreaking: true,
  ofLink: ({ answer }) => {
    if (answer.path) return [];
    const [what, why] = problemWords(answer);
    const { problem } = answer;
    const figure = problem?.kind === "hole" ? { value: problem.count, unit: "samples" } : null;
    return [{ radioId: null, what, why, figure, cause: null }];
  },
};
