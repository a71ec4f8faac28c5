import { returnFrequencyMHz } from "../../radio";
import { inBand } from "../linkChanges";
import { ownCause, type Check } from "./check";

export const outOfBand: Check = {
  id: "outOfBand",
  title: "Out of band",
  stage: "paths",
  isBreaking: true,
  ofLink: ({ a, b }) =>
    [a, b].flatMap((end) =>
      (
        [
          ["radio", end.model.bandMHz],
          ["antenna", end.antenna.bandMHz],
        ] as const
      ).flatMap(([owner, [low, high]]) => {
        const { frequencyMHz } = end.radio;
        const outside = [frequencyMHz, returnFrequencyMHz(end.model, frequencyMHz)].find(
          (one) => one < low || one > high,
        );
        if (outside === undefined) return [];
        return [
          {
            radioId: end.radio.id,
            what: `${outside} MHz is outside the ${owner}'s ${low}–${high} MHz`,
            why: "A radio neither sends nor hears outside its band.",
            figure: { value: outside < low ? low - outside : outside - high, unit: "MHz" },
            cause: ownCause(end),
          },
        ];
      }),
    ),
  candidates: inBand,
};
