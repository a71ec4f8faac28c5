import { FLAG_WORDS } from "../../regulation";
import { inBand } from "../candidates";
import { ownCause, type Check } from "./check";

export const indoorOnly: Check = {
  id: "indoorOnly",
  title: "Indoor band",
  stage: "paths",
  isBreaking: true,
  ofPath: ({ a, ways }) =>
    ways.flatMap(([{ limit }, end]) =>
      limit.flags.includes("indoorOnly") && end.behind === "none"
        ? [
            {
              radioId: end.radio.id,
              what: `${a.radio.frequencyMHz} MHz, ${limit.source}: ${FLAG_WORDS.indoorOnly}`,
              why: "An antenna outdoors has no place in this part of the band.",
              figure: null,
              cause: ownCause(end),
            },
          ]
        : [],
    ),
  candidates: inBand,
};
