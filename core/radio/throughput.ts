import { thermalNoiseDbm } from "../propagation";
import type { Modulation, RadioModel } from "./model";

/** Level in dBm on one chain at which `modulation` just holds at the receiver: one chain's noise floor plus its SNR need. */
export function sensitivityDbm(
  radio: RadioModel,
  widthMHz: number,
  modulation: Modulation = radio.modulations[0]!,
): number {
  return thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: radio.noiseFigureDb }) + modulation.snrDb;
}

/**
 * Share of the frame of one direction: all of it where each has a frequency of its own. "down" is away from the access point, whose
 * radio this is; `ownShare` is what it is set to, null for what it comes with.
 */
export function frameShare(
  { duplex, downShare: usualShare }: RadioModel,
  direction: "down" | "up",
  ownShare: number | null = null,
): number {
  const downShare = ownShare ?? usualShare;
  return duplex === "FDD" ? 1 : direction === "down" ? downShare : 1 - downShare;
}

/** Net rate in Mbit/s over the air: bits/s/Hz × width × chains × efficiency × share of the frame. */
export function airRateMbps({
  bitsPerHz,
  widthMHz,
  chains,
  efficiency,
  share,
}: {
  bitsPerHz: number;
  widthMHz: number;
  chains: number;
  efficiency: number;
  share: number;
}): number {
  return bitsPerHz * widthMHz * chains * efficiency * share;
}

/**
 * Net rate in Mbit/s of one direction between two radios of a kind with the channel to itself. `chains` is the number in use
 * at both ends.
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
  const { efficiency } = radio;
  return airRateMbps({
    bitsPerHz: modulation.bitsPerHz,
    widthMHz,
    chains,
    efficiency,
    share: frameShare(radio, direction),
  });
}

/**
 * What two radios can both speak, from the most robust up, as sent by `from` and heard by `to`: the receiver's need of SNR,
 * the sender's back-off, the slower of the two rates. Modulations are one and the same by their name.
 */
export function commonModulations(from: RadioModel, to: RadioModel): Modulation[] {
  if (from.modulations === to.modulations) return from.modulations;
  const common: Modulation[] = [];
  for (let i = 0; i < to.modulations.length; i++) {
    const heard = to.modulations[i]!;
    const beside = from.modulations[i];
    const sent = beside?.name === heard.name ? beside : from.modulations.find(({ name }) => name === heard.name);
    if (!sent) continue;
    common.push({
      name: heard.name,
      snrDb: heard.snrDb,
      bitsPerHz: Math.min(heard.bitsPerHz, sent.bitsPerHz),
      backoffDb: sent.backoffDb,
    });
  }
  return common;
}

/**
 * The frequency on which the far end answers, MHz: the same in TDD; in FDD the radio's duplex spacing above it, or below
 * where above lies outside the band. A sheet without a spacing leaves both on one.
 */
export function returnFrequencyMHz({ duplex, duplexSpacingMHz, bandMHz }: RadioModel, frequencyMHz: number): number {
  if (duplex === "TDD" || duplexSpacingMHz === null) return frequencyMHz;
  const above = frequencyMHz + duplexSpacingMHz;
  return above <= bandMHz[1] ? above : frequencyMHz - duplexSpacingMHz;
}

/** Whether a whole channel, and in FDD the one that answers it, lies in the radio's band. */
export function isChannelInBand(radio: RadioModel, frequencyMHz: number, widthMHz: number): boolean {
  return [frequencyMHz, returnFrequencyMHz(radio, frequencyMHz)].every(
    (centre) => centre - widthMHz / 2 >= radio.bandMHz[0] && centre + widthMHz / 2 <= radio.bandMHz[1],
  );
}

/** The frequency on which an end sends, MHz: in FDD the far end answers on the other one of its channel. */
export const sendsOnMHz = (radio: RadioModel, channelMHz: number, isNear: boolean): number =>
  radio.duplex === "FDD" && !isNear ? returnFrequencyMHz(radio, channelMHz) : channelMHz;

/** The frequency on which an end listens, MHz: in FDD the near end listens to the other one of its channel. */
export const listensOnMHz = (radio: RadioModel, channelMHz: number, isNear: boolean): number =>
  radio.duplex === "FDD" && isNear ? returnFrequencyMHz(radio, channelMHz) : channelMHz;
