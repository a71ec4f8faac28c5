import { figure } from "../../words";
import { elsewhere, higher, stronger } from "../linkChanges";
import type { Check } from "./check";

export const margin: Check = {
  id: "margin",
  title: "Thin margin",
  stage: "paths",
  isSearched: true,
  isAboutLevel: true,
  comesOfLessPower: true,
  ofPath: ({ world, weaker, toward, wantedDb, isThin, isNoise, isCut }) => {
    if (!isThin || isNoise || isCut) return [];
    return [
      {
        radioId: null,
        what: `${figure(weaker.marginLeftDb)} dB left at ${toward}, ${wantedDb} dB wanted`,
        why:
          weaker.rainDb > 0
            ? `Rain takes ${weaker.rainDb.toFixed(1)} dB for ${(100 - world.plan.availabilityPercent).toFixed(3)} % of the year.`
            : "Fading, wind and growing noise will eat the rest.",
        figure: { value: wantedDb - weaker.marginLeftDb, unit: "dB" },
        cause: null,
      },
    ];
  },
  *candidates(bench) {
    yield* stronger(bench);
    yield* higher(bench);
    yield* elsewhere(bench);
  },
};
