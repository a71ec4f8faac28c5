import { beamwidthDeg } from "../antenna";
import type { Place } from "../geodesy";
import type { World } from "../plan";
import { keepAwayM } from "./loads";
import { radiosOnMasts } from "./mast";

/** What lies in front of an antenna: how far the public keeps away, over the angle that it looks into; all round where it has no front. */
export interface Front {
  place: Place;
  headingDeg: number | null;
  widthDeg: number;
  publicM: number;
}

/** So far under the peak a front ends: there the distance is a quarter, dB. */
const FRONT_DB = 12;

/** The fronts of all antennas on the masts of a plan. */
export const frontsOf = (world: World): Front[] =>
  radiosOnMasts(world).map(({ end, headingDeg }) => ({
    ...{ place: end.place, headingDeg, publicM: keepAwayM(end).publicM },
    widthDeg: Math.min(360, beamwidthDeg(end.antenna.azimuthCuts.V, FRONT_DB)),
  }));
