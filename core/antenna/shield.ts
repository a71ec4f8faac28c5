import { cutLossDb } from "./gain";
import type { AntennaModel, Cut } from "./model";

/** A shield round an antenna: what it takes behind, and what it takes in front. All of it as measured, or as its maker says. */
export interface Shield {
  name: string;
  /** More loss behind, dB, full from 20° past `fromDeg` off the heading on. */
  behindDb: number;
  fromDeg: number;
  /** Less gain ahead, dB. */
  frontDb: number;
  /** More loss at the shield's rim, `fromDeg` off the heading, growing with the square of the angle, dB: the beam becomes narrower. */
  rimDb: number;
  weightKg: number;
  priceEur: number;
}

const RAMP_DEG = 20;
const STEP_DEG = 5;
const MOST_LOSS_DB = 100;
const MOST_FRONT_TO_BACK_DB = 80;

function shieldedCut(cut: Cut, { behindDb, fromDeg, rimDb }: Shield): Cut {
  const grid = Array.from({ length: 360 / STEP_DEG + 1 }, (_, i) => i * STEP_DEG - 180);
  const bends = [-fromDeg - RAMP_DEG, -fromDeg, fromDeg, fromDeg + RAMP_DEG].filter((angle) => Math.abs(angle) < 180);
  const anglesDeg = [...new Set([...cut.anglesDeg, ...grid, ...bends])].sort((x, y) => x - y);
  const lossDb = anglesDeg.map((angle) => {
    const off = Math.abs(angle);
    const rim = rimDb * Math.min(1, (off / fromDeg) ** 2);
    const behind = behindDb * Math.min(1, Math.max(0, (off - fromDeg) / RAMP_DEG));
    return Math.min(MOST_LOSS_DB, cutLossDb(cut, angle) + rim + behind);
  });
  return { anglesDeg, lossDb };
}

/** An antenna with a shield as an antenna of its own: isolation behind is bought with gain and width in front. */
export function withShield(antenna: AntennaModel, shield: Shield, id: string): AntennaModel {
  const { H, V } = antenna.azimuthCuts;
  return {
    ...antenna,
    id,
    model: `${antenna.model} + ${shield.name}`,
    gainAcrossBand: antenna.gainAcrossBand.map(({ frequencyMHz, hDbi, vDbi }) => ({
      frequencyMHz,
      hDbi: hDbi - shield.frontDb,
      vDbi: vDbi - shield.frontDb,
    })),
    azimuthCuts: { H: shieldedCut(H, shield), V: shieldedCut(V, shield) },
    frontToBackDb: Math.min(MOST_FRONT_TO_BACK_DB, antenna.frontToBackDb + shield.behindDb),
    weightKg: antenna.weightKg + shield.weightKg,
    priceEur: antenna.priceEur + shield.priceEur,
  };
}
