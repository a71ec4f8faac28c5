import { inBand } from "../linkChanges";
import { ownCause, type Check } from "./check";

export const indoorOnly: Check = {
  id: "indoorOnly",
  title: "Indoor band",
  stage: "paths",
  isBreaking: true,
  ofPath: ({ ways }) =>
    ways.flatMap(([{ limit, closed }, end]) =>
      limit.covered && closed !== null
        ? [
            {
              radioId: end.radio.id,
              what: closed,
              why: "An antenna outdoors has no place in this part of the band.",
              figure: null,
              cause: ownCause(end),
            },
          ]
        : [],
    ),
  candidates: inBand,
};
