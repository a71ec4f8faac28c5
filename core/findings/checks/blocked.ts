import { shortfallText } from "../../link";
import { figure } from "../../words";
import { elsewhere, higher } from "../linkChanges";
import type { Check } from "./check";
import { areTreesAlone } from "./trees";

export const blocked: Check = {
  id: "blocked",
  title: "Blocked",
  stage: "paths",
  isSearched: true,
  ofPath: (one) => {
    const { world, path, weaker, toward, wantedDb } = one;
    if (path.clearance.state !== "blocked" || areTreesAlone(one)) return [];
    const lostDb = path.diffractionDb + path.trees.lossDb;
    return [
      {
        radioId: null,
        what: shortfallText(path.clearance, world.plan),
        why: `The straight line itself is cut: ${lostDb.toFixed(1)} dB are lost by it, and what arrives changes with weather and leaves. ${figure(weaker.marginLeftDb)} dB of margin left at ${toward}, ${wantedDb} wanted.`,
        figure: { value: lostDb, unit: "dB" },
        cause: null,
      },
    ];
  },
  *candidates(bench) {
    yield* higher(bench);
    yield* elsewhere(bench);
  },
};
