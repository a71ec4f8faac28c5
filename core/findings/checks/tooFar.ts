import { inBand } from "../linkChanges";
import type { Check } from "./check";

export const tooFar: Check = {
  id: "tooFar",
  title: "Beyond its timing",
  stage: "paths",
  isBreaking: true,
  ofLink: ({ a, b, answer: { distanceM } }) =>
    [a, b].flatMap(({ radio, model }) => {
      if (distanceM <= model.rangeLimitKm * 1000) return [];
      return [
        {
          radioId: radio.id,
          what: `${(distanceM / 1000).toFixed(2)} km is beyond the ${model.rangeLimitKm} km that the ${model.model}'s timing allows`,
          why: "Answers arrive after the radio has stopped waiting, however strong they are.",
          figure: { value: distanceM / 1000 - model.rangeLimitKm, unit: "km" },
          cause: null,
        },
      ];
    }),
  candidates: inBand,
};
