import type { AntennaModel } from "../antenna";
import { endOf, type Radio, type Site, type World } from "../plan";
import { keepAwayM } from "./keepAway";
import { radiosOnMasts } from "./mast";
import { windAreaOf, windLoad } from "./wind";

/** What one antenna puts on its structure, and how far people keep away from its front. */
interface AntennaLoad {
  radio: Radio;
  antenna: string;
  areaM2: number;
  /** Its width without ice, m, and the side struts that hold it against turning about its pole. */
  widthM: number;
  struts: number;
  forceN: number;
  /** At the structure's foot. */
  momentNm: number;
  /** How far in front of it the power density stays over the limits, m, with what the others here send the same way. */
  publicM: number;
  workerM: number;
}

/** A structure under its antennas in the plan's gust. */
interface MastLoad {
  antennas: AntennaLoad[];
  forceN: number;
  momentNm: number;
  /** Radios and antennas, and the ice on them where the plan reckons with ice. */
  weightKg: number;
  iceKg: number;
}

/** From these widths on a dish is held by one side strut, and by two, m. */
const STRUT_FROM_M = [0.9, 1.8] as const;
/** Side struts that a dish is usually held with; none for what is no dish. Its maker's word comes first. */
export const strutsFor = (shape: AntennaModel["shape"], widthM: number): number =>
  shape === "dish" || shape === "grid" ? STRUT_FROM_M.filter((fromM) => widthM >= fromM).length : 0;

/** How much more than what the gust asks ballast is to hold, how roofs rub, and the acceleration of gravity. */
const BALLAST_SAFETY = 1.5;
const ROOF_FRICTION = 0.4;
const GRAVITY_M_PER_S2 = 9.81;

/**
 * Weight that keeps a mount that is not bolted from being tipped over the edge of its foot, or pushed along the roof, in the plan's gust, kg:
 * antennas and radios themselves count toward it. 0 where it is bolted. Arms are measured from the foot, which stands that high above the
 * ground; it tips over half of its side. Whichever asks for more decides.
 */
export function ballastKg(
  { ballastBaseM, ballastFootM }: Pick<Site, "ballastBaseM" | "ballastFootM">,
  { antennas, forceN, weightKg }: MastLoad,
): number {
  if (ballastBaseM <= 0) return 0;
  const momentNm = antennas.reduce((sum, one) => sum + one.forceN * Math.max(0, one.radio.heightM - ballastFootM), 0);
  const againstTipping = momentNm / (ballastBaseM / 2);
  const againstSliding = forceN / ROOF_FRICTION;
  const neededKg = (BALLAST_SAFETY * Math.max(againstTipping, againstSliding)) / GRAVITY_M_PER_S2;
  return Math.max(0, neededKg - weightKg);
}

/** What the antennas of a site add to its structure; the structure's own wind, ice, cables and people are for whoever answers for it. */
export function mastLoad(world: World, radios: readonly Radio[]): MastLoad {
  const { gustMPerS, iceMm } = world.plan;
  let weightKg = 0;
  let iceOnAllKg = 0;
  const ids = new Set(radios.map(({ id }) => id));
  const mast = radiosOnMasts(world).filter(({ end }) => ids.has(end.radio.id));
  const antennas = radios.map((radio): AntennaLoad => {
    const { antenna, model } = endOf(world, radio.id);
    const { areaM2, dragCoefficient, widthM, iceKg } = windAreaOf(antenna, iceMm);
    iceOnAllKg += iceKg;
    const load = windLoad({ areaM2, dragCoefficient, windMPerS: gustMPerS, armM: radio.heightM });
    weightKg += antenna.weightKg + model.weightKg;
    return {
      ...{ radio, antenna: antenna.model, areaM2, widthM, struts: strutsFor(antenna.shape, widthM), ...load },
      ...keepAwayM(
        mast.find(({ end }) => end.radio.id === radio.id)!,
        mast,
      ),
    };
  });
  const sum = (of: (one: AntennaLoad) => number) => antennas.reduce((all, one) => all + of(one), 0);
  return {
    antennas,
    forceN: sum(({ forceN }) => forceN),
    momentNm: sum(({ momentNm }) => momentNm),
    weightKg,
    iceKg: iceOnAllKg,
  };
}

/** By how much the antennas' moment passes what the owner lets the structure bear, N·m; 0 where he stated nothing. */
export const momentOverNm = ({ mastMomentNm }: Pick<Site, "mastMomentNm">, { momentNm }: MastLoad): number =>
  mastMomentNm > 0 ? Math.max(0, momentNm - mastMomentNm) : 0;
