import { shortfallText } from "../../link";
import { elsewhere, higher } from "../linkChanges";
import type { Check } from "./check";
import { areTreesAlone } from "./trees";

export const tight: Check = {
  id: "tight",
  title: "Zone intruded",
  stage: "paths",
  isSearched: true,
  ofPath: (one) => {
    const { clearance } = one.path;
    if (clearance.state !== "tight" || areTreesAlone(one)) return [];
    return [
      {
        radioId: null,
        what: shortfallText(clearance, one.world.plan),
        why: "Line of sight alone is not enough: energy travels in the whole zone.",
        figure: { value: clearance.worstShare, unit: "of the zone" },
        cause: null,
      },
    ];
  },
  *candidates(bench) {
    yield* higher(bench);
    yield* elsewhere(bench);
  },
};
