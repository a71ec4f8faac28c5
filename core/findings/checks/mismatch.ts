import { elsewhere, sameChannel } from "../linkChanges";
import type { Check } from "./check";

export const mismatch: Check = {
  id: "mismatch",
  title: "Ends do not match",
  stage: "paths",
  isBreaking: true,
  ofPath: ({ path: { mismatches } }) =>
    mismatches.length === 0
      ? []
      : [
          {
            radioId: null,
            what: mismatches.join("; "),
            why: "Nothing passes between them, however strong the signal is.",
            figure: null,
            cause: null,
          },
        ],
  *candidates(bench) {
    yield* sameChannel(bench);
    yield* elsewhere(bench);
  },
};
