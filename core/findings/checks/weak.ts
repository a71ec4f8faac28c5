import { figure } from "../../words";
import { elsewhere, higher, stronger } from "../linkChanges";
import type { Check } from "./check";

export const weak: Check = {
  id: "weak",
  title: "No modulation holds",
  stage: "paths",
  isSearched: true,
  isAboutLevel: true,
  comesOfLessPower: true,
  ofPath: ({ weaker, toward, isWeak, isNoise, isCut }) => {
    if (!isWeak || isNoise || isCut) return [];
    const { fadeMarginDb, chainLevelDbm, sensitivityDbm, noise } = weaker;
    return [
      {
        radioId: null,
        what:
          fadeMarginDb < 0
            ? `${figure(chainLevelDbm)} dBm on a chain at ${toward}, ${figure(-fadeMarginDb)} dB under the ${figure(sensitivityDbm)} that the most robust modulation needs`
            : `no modulation holds at ${toward}`,
        why:
          noise.riseDb > 0
            ? `Not even the most robust modulation holds; ${noise.riseDb.toFixed(1)} dB of that is noise.`
            : "Not even the most robust modulation holds.",
        figure: { value: Math.max(0, -fadeMarginDb), unit: "dB" },
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
