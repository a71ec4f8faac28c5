import { elsewhere, turned } from "../linkChanges";
import type { Check } from "./check";

/** Off-boresight loss, dB, from which an aim counts as missed: the edge of the usual beamwidth, twice. */
const MISAIM_DB = 6;

export const misaimed: Check = {
  id: "misaimed",
  title: "Outside the beam",
  stage: "paths",
  ofPath: ({ ways, a, path: { aPointing, bPointing }, weaker, wantedDb, isNoise }) =>
    ways.flatMap(([{ fromOffDb }, end]) => {
      // Close in, a customer far below the beam still has level to spare: only a thin margin makes it a fault.
      if (fromOffDb < MISAIM_DB || weaker.marginLeftDb >= wantedDb || isNoise) return [];
      const { azimuthOffDeg, elevationOffDeg } = end === a ? aPointing : bPointing;
      return [
        {
          radioId: end.radio.id,
          what: `${fromOffDb.toFixed(1)} dB lost ${Math.abs(azimuthOffDeg).toFixed(0)}° beside and ${Math.abs(elevationOffDeg).toFixed(0)}° above or below the boresight of ${end.radio.name}`,
          why: "The far end stands outside the beam.",
          figure: { value: fromOffDb, unit: "dB" },
          cause: null,
        },
      ];
    }),
  *candidates(bench, fault) {
    yield* elsewhere(bench);
    yield* turned(bench, fault);
  },
};
