import { tiltBeyondBracketDeg } from "../../aiming";
import { reachable } from "../linkChanges";
import type { Check } from "./check";

export const bracket: Check = {
  id: "bracket",
  title: "Beyond the bracket",
  stage: "install",
  ofPath: ({ a, b, path: { aPointing, bPointing } }) =>
    (
      [
        [a, aPointing],
        [b, bPointing],
      ] as const
    ).flatMap(([end, { mechanicalTiltDownDeg }]) => {
      const beyondDeg = tiltBeyondBracketDeg(end, mechanicalTiltDownDeg);
      if (beyondDeg <= 0.05) return [];
      const way = mechanicalTiltDownDeg > 0 ? "down" : "up";
      return [
        {
          radioId: end.radio.id,
          what: `${Math.abs(mechanicalTiltDownDeg).toFixed(1)}° ${way} needed, ${beyondDeg.toFixed(1)}° more than the bracket reaches`,
          why: "On the roof the bolt meets the end of its slot.",
          figure: { value: beyondDeg, unit: "°" },
          cause: null,
        },
      ];
    }),
  candidates: reachable,
};
