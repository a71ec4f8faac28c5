import { beamwidthDeg } from "../antenna";
import type { Place } from "../geodesy";
import type { World } from "../plan";
import { keepAwayM } from "./keepAway";
import { radiosOnMasts, type OnMast } from "./mast";

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
export function frontsOf(world: World): Front[] {
  const masts = new Map<string, OnMast[]>();
  for (const one of radiosOnMasts(world)) {
    const siteId = one.end.radio.siteId!;
    masts.set(siteId, [...(masts.get(siteId) ?? []), one]);
  }
  return [...masts.values()].flatMap((mast) =>
    mast.map((one) => ({
      ...{ place: one.end.place, headingDeg: one.headingDeg, publicM: keepAwayM(one, mast).publicM },
      widthDeg: Math.min(360, beamwidthDeg(one.end.antenna.azimuthCuts.V, FRONT_DB)),
    })),
  );
}
