import type { Polarization } from "../antenna";
import { figure } from "../words";
import type { RadioModel } from "./model";

/** The number to type into a device, and which power it is. */
export interface PowerToSet {
  dbm: number;
  /** "one chain" where only one sends, so that both powers are the same. */
  of: "all chains together" | "each chain" | "one chain";
}

/** Chains that send: one on a single linear polarization. */
export const sendingChains = ({ chains }: Pick<RadioModel, "chains">, polarization: Polarization): number =>
  polarization === "H" || polarization === "V" ? 1 : chains;

/** A setting may pass the planned power by so much: rounding, dB. */
const ROUNDING_DB = 0.05;

/**
 * What to set a device to so that all its chains together send `totalDbm` (conducted), which is what a plan holds. Told per chain, it is
 * 10 log₁₀ of the chains less, in the radio's steps and never above what is planned: 19 dBm on two chains is 16 dBm per chain.
 */
export function powerToSet(
  model: Pick<RadioModel, "chains" | "powerSetting" | "powerStepDb" | "powerMinDbm">,
  polarization: Polarization,
  totalDbm: number,
): PowerToSet {
  const chains = sendingChains(model, polarization);
  if (chains === 1) return { dbm: totalDbm, of: "one chain" };
  if (model.powerSetting === "total") return { dbm: totalDbm, of: "all chains together" };
  const each = totalDbm - 10 * Math.log10(chains);
  const steps = Math.floor((each - model.powerMinDbm + ROUNDING_DB) / model.powerStepDb);
  return { dbm: model.powerMinDbm + steps * model.powerStepDb, of: "each chain" };
}

/** The power that all chains together send when a device is set so, dBm: the way back from `powerToSet`. */
export const totalOfSetting = (chains: number, { dbm, of }: PowerToSet): number =>
  of === "each chain" ? dbm + 10 * Math.log10(chains) : dbm;

/** "16 dBm on each chain", "19 dBm, all chains together". */
export function powerSettingText({ dbm, of }: PowerToSet): string {
  const value = `${figure(dbm, Number.isInteger(dbm) ? 0 : 1)} dBm`;
  return of === "each chain" ? `${value} on each chain` : of === "one chain" ? value : `${value}, all chains together`;
}
