import { beamwidthDeg } from "#core/antenna";
import { keepAwayM, radiosOnMast } from "#core/mast";
import type { World } from "#core/plan";
import { useMemo } from "react";
import type { MapExposure } from "../map/types";

/** Of a front so much counts to either side: where the beam is 12 dB down the distance is a quarter. */
const FRONT_DB = 12;

/** How far the public keeps away from each antenna of the sites. */
export function useExposures(world: World): MapExposure[] {
  return useMemo(
    () =>
      [...world.sites.keys()].flatMap((siteId) =>
        radiosOnMast(world, siteId).map(({ end, headingDeg }): MapExposure => {
          const widthDeg = Math.min(360, beamwidthDeg(end.antenna.azimuthCuts.V, FRONT_DB));
          return { place: end.place, headingDeg, widthDeg, metres: keepAwayM(end).publicM };
        }),
      ),
    [world],
  );
}
