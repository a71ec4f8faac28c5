import { lower } from "../linkChanges";
import { ownCause, type Check } from "./check";

export const tooHigh: Check = {
  id: "tooHigh",
  title: "Above the structure",
  stage: "paths",
  isBreaking: true,
  ofLink: ({ a, b }) =>
    [a, b].flatMap((end) => {
      const { radio, maxHeightM } = end;
      if (radio.heightM <= maxHeightM) return [];
      const overM = radio.heightM - maxHeightM;
      return [
        {
          radioId: radio.id,
          what: `${radio.heightM} m is ${overM.toFixed(1)} m above the structure's ${maxHeightM} m`,
          why: "Nothing is there to mount it on.",
          figure: { value: overM, unit: "m" },
          cause: ownCause(end),
        },
      ];
    }),
  candidates: lower,
};
