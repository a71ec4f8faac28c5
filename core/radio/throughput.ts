import { thermalNoiseDbm } from "../propagation";
import type { Modulation, RadioModel } from "./model";

/** Level in dBm at which `modulation` just holds at the receiver: noise floor plus its SNR need. */
export function sensitivityDbm(
  radio: RadioModel,
  widthMHz: number,
  modulation: Modulation = radio.modulations[0]!,
): number {
  return thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: radio.noiseFigureDb }) + modulation.snrDb;
}

/**
 * Net rate in Mbit/s of one direction with the channel to itself: bits/s/Hz × width × chains × efficiency × the
 * direction's share of the frame. `chains` is the number in use at both ends.
 */
export function netRateMbps({
  radio,
  modulation,
  widthMHz,
  chains,
  direction,
}: {
  radio: RadioModel;
  modulation: Modulation | null;
  widthMHz: number;
  chains: number;
  direction: "down" | "up";
}): number {
  if (!modulation) return 0;
  const share = radio.duplex === "FDD" ? 1 : direction === "down" ? radio.downShare : 1 - radio.downShare;
  return modulation.bitsPerHz * widthMHz * chains * radio.efficiency * share;
}
