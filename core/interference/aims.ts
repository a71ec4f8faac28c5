import { pointingOf } from "../aiming";
import { patternLossDb, peakGainDbi } from "../antenna";
import { inverseGeodesic } from "../geodesy";
import { endOf, type LinkEnd, type World } from "../plan";

/** Gain toward a bearing, pattern and peak together, dBi; without a tilt as if the elevation cut stood at its peak. */
export function gainTowardDbi(
  end: LinkEnd,
  aim: Aim,
  frequencyMHz: number,
  bearingDeg: number,
  tiltDownDeg: number | null,
): number {
  const { radio, antenna } = end;
  const aimed: LinkEnd = {
    ...end,
    radio: {
      ...radio,
      azimuthDeg: radio.azimuthDeg ?? aim.bearingDeg,
      tiltDownDeg: radio.tiltDownDeg ?? aim.tiltDownDeg,
    },
  };
  const { azimuthOffDeg, elevationOffDeg } = pointingOf(aimed, bearingDeg, tiltDownDeg ?? 0);
  return (
    peakGainDbi(antenna, frequencyMHz, radio.polarization) -
    patternLossDb(antenna, radio.polarization, azimuthOffDeg, tiltDownDeg === null ? 0 : elevationOffDeg)
  );
}

/** Where an end that aims at its far end looks. */
export interface Aim {
  bearingDeg: number;
  tiltDownDeg: number;
}

/** Where an end looks whose far end is `mate`; undefined for a radio without a link. */
export function aimOf(world: World, end: LinkEnd, mate: string | undefined): Aim {
  const electrical = end.antenna.electricalTiltDownDeg;
  if (mate === undefined || !world.radios.has(mate)) return { bearingDeg: 0, tiltDownDeg: -electrical };
  return { bearingDeg: inverseGeodesic(end.place, endOf(world, mate).place).azimuthDeg, tiltDownDeg: -electrical };
}
