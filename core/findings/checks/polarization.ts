import type { Tape } from "../../link";
import { aligned } from "../linkChanges";
import type { Check } from "./check";

/** What unequal polarization takes in one direction. */
function lost({ crossedDb, splitDb, question: { to } }: Tape): string {
  if (crossedDb > 0) return `${crossedDb.toFixed(0)} dB of the total lost toward ${to.placeName}`;
  return splitDb > 0
    ? `all of it arrives at ${to.placeName}, ${splitDb.toFixed(0)} dB less on each chain`
    : `all of it arrives at ${to.placeName}, on one chain`;
}

export const polarization: Check = {
  id: "polarization",
  title: "Unequal polarization",
  stage: "paths",
  ofPath: ({ a, b, path: { aToB, bToA } }) =>
    a.radio.polarization === b.radio.polarization
      ? []
      : [
          {
            radioId: b.radio.id,
            what: `${a.radio.polarization} facing ${b.radio.polarization}: ${lost(aToB)}; ${lost(bToA)}`,
            why: "Both ends must stand the same way, or chains fall away.",
            figure: { value: Math.max(aToB.crossedDb, bToA.crossedDb, aToB.splitDb, bToA.splitDb), unit: "dB" },
            cause: null,
          },
        ],
  candidates: aligned,
};
