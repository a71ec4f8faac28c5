import { limitReason } from "../../regulation";
import { inBand } from "../linkChanges";
import { ownCause, type Check } from "./check";

export const uncovered: Check = {
  id: "uncovered",
  title: "No rule",
  stage: "paths",
  isBreaking: true,
  ofPath: ({ ways }) =>
    ways.flatMap(([{ limit }, end]) =>
      limit.covered
        ? []
        : [
            {
              radioId: end.radio.id,
              what: limitReason(limit),
              why: "Tejado has no cap to hold the radiated power against here.",
              figure: null,
              cause: ownCause(end),
            },
          ],
    ),
  candidates: inBand,
};
