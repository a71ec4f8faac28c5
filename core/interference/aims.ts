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

/** The far end of each radio's first link. */
const matesOf = new WeakMap<World["links"], Map<string, string>>();
function mateOf(world: World, radioId: string): string | undefined {
  let mates = matesOf.get(world.links);
  if (!mates) {
    mates = new Map();
    for (const { aRadioId, bRadioId } of world.links.values()) {
      if (!mates.has(aRadioId)) mates.set(aRadioId, bRadioId);
      if (!mates.has(bRadioId)) mates.set(bRadioId, aRadioId);
    }
    matesOf.set(world.links, mates);
  }
  return mates.get(radioId);
}

export function aimOf(world: World, end: LinkEnd, mate = mateOf(world, end.radio.id)): Aim {
  const electrical = end.antenna.electricalTiltDownDeg;
  if (mate === undefined || !world.radios.has(mate)) return { bearingDeg: 0, tiltDownDeg: -electrical };
  return { bearingDeg: inverseGeodesic(end.place, endOf(world, mate).place).azimuthDeg, tiltDownDeg: -electrical };
}
