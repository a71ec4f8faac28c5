import { airRateMbps, commonModulations } from "../radio";
import { frameShareOf, type Tape } from "./budget";

/** The most noise on a chain, dBm, under which a direction still runs at a rate. */
export interface NoiseStep {
  mostNoiseDbm: number;
  rateMbps: number;
}

/**
 * What a direction would carry under any noise, everything else as on its tape: the fastest rate first, each with the most noise that it
 * bears. Empty for ends that cannot talk, or a receiver that is overloaded.
 */
export function noiseSteps(tape: Tape): NoiseStep[] {
  const { from, to, direction, path, isMismatched } = tape.question;
  if (isMismatched || tape.overloadDb > 0) return [];
  const fullChainDbm = tape.chainLevelDbm + tape.backoffDb;
  const steps = commonModulations(from.model, to.model).map(({ snrDb, bitsPerHz, backoffDb }): NoiseStep => {
    const backoff = Math.max(0, from.radio.txPowerDbm - (from.model.powerMaxDbm - backoffDb));
    const overAirMbps = airRateMbps({
      bitsPerHz,
      widthMHz: path.widthMHz,
      chains: tape.chains,
      efficiency: Math.min(from.model.efficiency, to.model.efficiency),
      share: frameShareOf(direction, from, to),
    });
    const rateMbps = Math.min(overAirMbps, from.model.portMbps ?? Infinity, to.model.portMbps ?? Infinity);
    return { mostNoiseDbm: fullChainDbm - backoff - snrDb, rateMbps };
  });
  // As on the tape the last modulation of the ladder that holds is taken.
  return steps.reverse();
}

/** The rate under some noise; 0 where nothing holds. */
export const rateUnder = (steps: readonly NoiseStep[], noiseDbm: number): number =>
  steps.find(({ mostNoiseDbm }) => noiseDbm <= mostNoiseDbm)?.rateMbps ?? 0;
