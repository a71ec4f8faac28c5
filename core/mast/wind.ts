import { beamwidthDeg, type AntennaModel } from "../antenna";

const AIR_KG_PER_M3 = 1.25;

/** Force of wind on a surface, N, and its moment at the foot of an arm, N·m: ½ ρ v² Cd A. */
export function windLoad({
  areaM2,
  dragCoefficient,
  windMPerS,
  armM,
}: {
  areaM2: number;
  dragCoefficient: number;
  windMPerS: number;
  armM: number;
}): { forceN: number; momentNm: number } {
  const forceN = 0.5 * AIR_KG_PER_M3 * windMPerS ** 2 * dragCoefficient * areaM2;
  return { forceN, momentNm: forceN * armM };
}

/** Drag by shape: a dish holds the wind, a grid lets most of it through, what is round lets it pass. */
const DRAG: Readonly<Record<AntennaModel["shape"], number>> = {
  omni: 0.8,
  sector: 1.3,
  horn: 0.9,
  panel: 1.3,
  grid: 0.7,
  dish: 1.4,
};
/** Width of an aperture in wavelengths times its beam at −3 dB in degrees, for an evenly fed one tapered a little toward its edge. */
const APERTURE_DEG = 60;
/** No housing is narrower, m; a rod is as thick as half of it. */
const LEAST_HOUSING_M = 0.12;
/** Rime ice as it grows on masts. */
const ICE_KG_PER_M3 = 900;
const LIGHT_M_PER_US = 299.792458;

/**
 * Area that an antenna holds to the wind, m², with its drag: estimated from the aperture that each of its beams takes, since no sheet of the
 * library tells it. Radial ice of `iceMm` makes it larger all round and closes a grid's meshes. Its width and height are without ice.
 */
export function windAreaOf(
  antenna: AntennaModel,
  iceMm = 0,
): { areaM2: number; dragCoefficient: number; widthM: number; heightM: number; iceKg: number } {
  const iceM = (2 * iceMm) / 1000;
  const wavelengthM = LIGHT_M_PER_US / ((antenna.bandMHz[0] + antenna.bandMHz[1]) / 2);
  const across = (cuts: AntennaModel["azimuthCuts"]) =>
    Math.max(LEAST_HOUSING_M, (APERTURE_DEG * wavelengthM) / beamwidthDeg(cuts.V, 3));
  const bare = [across(antenna.azimuthCuts), across(antenna.elevationCuts)] as const;
  const [widthM, heightM] = [bare[0] + iceM, bare[1] + iceM];
  const isRound = antenna.shape === "dish" || antenna.shape === "horn";
  const areaM2 =
    antenna.shape === "omni"
      ? (LEAST_HOUSING_M / 2 + iceM) * heightM
      : isRound
        ? (Math.PI / 4) * widthM * heightM
        : widthM * heightM;
  // Iced over, a grid is a wall.
  const dragCoefficient = DRAG[iceMm > 0 && antenna.shape === "grid" ? "dish" : antenna.shape];
  // As thick all over, front and back.
  const iceKg = 2 * areaM2 * (iceMm / 1000) * ICE_KG_PER_M3;
  return { areaM2, dragCoefficient, widthM: bare[0], heightM: bare[1], iceKg };
}
