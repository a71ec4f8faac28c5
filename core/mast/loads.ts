import { peakGainDbi } from "../antenna";
import { endOf, type Radio, type Site, type World } from "../plan";
import { exposureDistanceM } from "./exposure";
import { windAreaOf, windLoad } from "./wind";

/** What one antenna puts on its structure, and how far people keep away from its front. */
export interface AntennaLoad {
  radio: Radio;
  antenna: string;
  areaM2: number;
  forceN: number;
  /** At the structure's foot. */
  momentNm: number;
  /** How far in front of it the power density stays over the limits, m; reckoned as if it sent all the time at its set power. */
  publicM: number;
  workerM: number;
}

/** A structure under its antennas in the plan's gust. */
export interface MastLoad {
  antennas: AntennaLoad[];
  forceN: number;
  momentNm: number;
  weightKg: number;
}

/** ICNIRP 2020, table 5, whole-body limits of power density averaged over 30 minutes: W/m². */
export function exposureLimitWPerM2(frequencyMHz: number, whom: "public" | "worker"): number {
  const atLeast = whom === "public" ? 10 : 50;
  if (frequencyMHz >= 2000) return atLeast;
  return whom === "public" ? Math.max(2, frequencyMHz / 200) : Math.max(10, frequencyMHz / 40);
}

/** What the antennas of a site add to its structure; the structure's own wind, ice, cables and people are for whoever answers for it. */
export function mastLoad(world: World, radios: readonly Radio[]): MastLoad {
  const { gustMPerS } = world.plan;
  let weightKg = 0;
  const antennas = radios.map((radio): AntennaLoad => {
    const { antenna, model } = endOf(world, radio.id);
    const { areaM2, dragCoefficient } = windAreaOf(antenna);
    const load = windLoad({ areaM2, dragCoefficient, windMPerS: gustMPerS, armM: radio.heightM });
    weightKg += antenna.weightKg + model.weightKg;
    const eirpDbm = radio.txPowerDbm - radio.cableLossDb + peakGainDbi(antenna, radio.frequencyMHz, radio.polarization);
    const within = (whom: "public" | "worker") =>
      exposureDistanceM({ eirpDbm, limitWPerM2: exposureLimitWPerM2(radio.frequencyMHz, whom) });
    return { radio, antenna: antenna.model, areaM2, ...load, publicM: within("public"), workerM: within("worker") };
  });
  const sum = (of: (one: AntennaLoad) => number) => antennas.reduce((all, one) => all + of(one), 0);
  return { antennas, forceN: sum(({ forceN }) => forceN), momentNm: sum(({ momentNm }) => momentNm), weightKg };
}

/** By how much the antennas' moment passes what the owner lets the structure bear, N·m; 0 where he stated nothing. */
export const momentOverNm = ({ mastMomentNm }: Pick<Site, "mastMomentNm">, { momentNm }: MastLoad): number =>
  mastMomentNm > 0 ? Math.max(0, momentNm - mastMomentNm) : 0;
