import type { AntennaModel } from "../antenna";
import type { LinkEnd, Radio, World } from "../plan";
import type { RadioModel } from "../radio";
import { capsFor, type CappedEnd, type RuleUse } from "../regulation";

/** As much of an end as its power is set by. */
interface Sender extends Pick<CappedEnd, "radio" | "antenna"> {
  model: Pick<RadioModel, "powerMinDbm" | "powerMaxDbm" | "powerStepDb">;
}

const within = (band: readonly [number, number], frequencyMHz: number) =>
  band[0] <= frequencyMHz && frequencyMHz <= band[1];

/** Power, in whole steps of the radio, that uses the caps fully without passing them. */
export function powerWithinCapDbm(
  world: World,
  { radio, antenna, model }: Sender,
  use: RuleUse,
  mechanicalTiltDownDeg?: number,
): number {
  const end = { radio, antenna, behind: "none" } as const;
  const tilt = mechanicalTiltDownDeg === undefined ? {} : { mechanicalTiltDownDeg };
  const most = Math.min(model.powerMaxDbm, capsFor(world.plan, end, use, tilt).mostPowerDbm);
  const steps = Math.floor((most - model.powerMinDbm) / model.powerStepDb + 1e-9);
  return Math.max(model.powerMinDbm, model.powerMinDbm + steps * model.powerStepDb);
}

/** Antennas of the library that a band and a role allow, cheapest first; an adaptive one only for a radio that turns its beam. */
export function antennasFor(
  world: World,
  role: Radio["role"],
  frequencyMHz: number,
  model: Pick<RadioModel, "steersBeam" | "joins"> | null = null,
): AntennaModel[] {
  return [...world.antennaModels.values()]
    .filter((antenna) => within(antenna.bandMHz, frequencyMHz) && suits(antenna, role, model))
    .sort((x, y) => x.priceEur - y.priceEur);
}

const SHAPES: Readonly<Record<Radio["role"], readonly AntennaModel["shape"][]>> = {
  sector: ["sector", "omni", "horn"],
  subscriber: ["panel", "grid", "dish"],
  bridge: ["dish", "grid", "panel"],
};

/** Whether an antenna is of a shape that a role uses, and its radio, where one is named, can be joined to it and turn its beam. */
export const suits = (
  antenna: AntennaModel,
  role: Radio["role"],
  model: Pick<RadioModel, "steersBeam" | "joins"> | null,
): boolean =>
  SHAPES[role].includes(antenna.shape) &&
  (antenna.receiveBeam === null || model?.steersBeam === true) &&
  (model === null || isJoined(model, antenna));

/** Whether an antenna can be joined to a radio; where either sheet says nothing, nothing is wrong. */
export const isJoined = ({ joins }: Pick<RadioModel, "joins">, { join }: Pick<AntennaModel, "join">): boolean =>
  join === null || joins.length === 0 || joins.includes(join);

/** Radios of the library for a role that reach a frequency, cheapest first. */
export function radioModelsFor(world: World, role: Radio["role"], frequencyMHz: number): RadioModel[] {
  return [...world.radioModels.values()]
    .filter((model) => model.use === role && within(model.bandMHz, frequencyMHz))
    .sort((x, y) => x.priceEur - y.priceEur);
}

/** The same radio with its power brought under the caps of its present antenna and channel. */
export function withPowerInCap(world: World, end: Pick<LinkEnd, "radio" | "model" | "antenna">, use: RuleUse): Radio {
  const cap = powerWithinCapDbm(world, end, use);
  return end.radio.txPowerDbm <= cap ? end.radio : { ...end.radio, txPowerDbm: cap };
}

/** A receiver that is overloaded is spared this much more, dB: levels rise in good weather. */
const OVERLOAD_RESERVE_DB = 3;

/** The power, dBm in whole steps of the radio, at which an end no longer overloads the far one; its own where it does not. */
export function powerSparingDbm({ radio, model }: Pick<LinkEnd, "radio" | "model">, overloadDb: number): number {
  if (overloadDb <= 0) return radio.txPowerDbm;
  const steps = Math.ceil((overloadDb + OVERLOAD_RESERVE_DB) / model.powerStepDb);
  return Math.max(model.powerMinDbm, radio.txPowerDbm - steps * model.powerStepDb);
}
