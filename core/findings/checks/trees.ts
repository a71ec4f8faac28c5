import { isServed } from "../../link";
import { elsewhere, higher } from "../linkChanges";
import type { Check, PathCase } from "./check";

/** Whether trees alone stand in the way of a path that is served all the same. */
export function areTreesAlone({ world, a, b, answer, path }: PathCase): boolean {
  return path.treesAlone && path.trees.depthM > 0 && isServed(world.plan, { a, b }, answer);
}

export const trees: Check = {
  id: "trees",
  title: "Trees in the ray",
  stage: "paths",
  isSearched: true,
  ofPath: (one) => {
    if (!areTreesAlone(one)) return [];
    const { clearance, trees: inRay, diffractionDb } = one.path;
    const lost =
      inRay.way === "through"
        ? `${inRay.lossDb.toFixed(1)} dB through them`
        : `${diffractionDb.toFixed(1)} dB bent over their tops`;
    return [
      {
        radioId: null,
        what: `${inRay.depthM.toFixed(0)} m of trees in the ray at ${clearance.worstKm.toFixed(2)} km: ${lost}`,
        why: "It holds on paper, but wet leaves, wind and growth take more than a formula knows.",
        figure: { value: inRay.depthM, unit: "m" },
        cause: null,
      },
    ];
  },
  *candidates(bench) {
    yield* higher(bench);
    yield* elsewhere(bench);
  },
};
