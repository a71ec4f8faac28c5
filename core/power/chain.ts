import type { LinkEnd } from "../plan";
import { bears, CABLES, isTurnedAbout, LONGEST_COPPER_M, POWER_RULES } from "./inputs";
import { jumperLossDb } from "./jumper";
import { poeDrop } from "./poe";

/** A cable in the sun on a roof is that warm, °C: its copper resists most there. */
const WARM_C = 50;

/** One at either end of a cable. */
export const ARRESTERS = 2;

/** A radio's chain from its socket to the switch. */
export interface PowerChain {
  /** Copper from radio to switch, both sides of the injector, m; 0 over fibre. */
  copperM: number;
  tooLongM: number;
  /** The injector is one that the radio bears. */
  isRight: boolean;
  /** Volts at the radio at its greatest load with warm copper; null where no data cable carries its power, or the injector is wrong. */
  voltsAtRadio: number | null;
  leastV: number | null;
  /** The cable cannot carry that power at all. */
  isStarved: boolean;
  /** Too little arrives, or nothing can. */
  isDry: boolean;
  /** Plus and minus change places on the way. */
  isTurned: boolean;
  /** Indoor cable that hangs outdoors; copper outdoors without an arrester at both ends. */
  isBare: boolean;
  lacksArrester: boolean;
  /** What the jumpers take, dB, and how much of it the budget of the link does not hold. */
  jumperDb: number;
  jumperMissingDb: number;
  /** Something of it keeps the radio from working. */
  isBroken: boolean;
  /** The fastest that the cable carries, Mbit/s. */
  mostMbps: number;
}

/** The chain of one end of a plan. The radio is taken to draw all that its sheet names. */
export function powerChain({ radio, model }: Pick<LinkEnd, "radio" | "model">): PowerChain {
  const { awg, mostMbps } = CABLES[radio.cableKind];
  const copperM = awg === null ? 0 : radio.ethernetM + radio.indoorM;
  const isRight = bears(model.powerInput, radio.injector);
  const rule = model.powerInput === "dc48" || awg === null || !isRight ? null : POWER_RULES[model.powerInput];
  const drop =
    rule &&
    poeDrop({
      sourceV: rule.sourceV,
      loadW: model.loadW,
      cableM: radio.ethernetM,
      awg: awg!,
      pairs: rule.pairs,
      temperatureC: WARM_C,
    });
  const tooLongM = Math.max(0, copperM - LONGEST_COPPER_M);
  const isStarved = rule !== null && drop === null;
  const jumperDb = jumperLossDb({ frequencyMHz: radio.frequencyMHz, lengthM: radio.jumperM });
  const isTurned = isTurnedAbout(radio);
  const isDry = isStarved || (rule !== null && drop!.voltsAtLoad < rule.leastV);
  return {
    copperM,
    tooLongM,
    isRight,
    isStarved,
    isDry,
    mostMbps,
    isTurned,
    jumperDb,
    isBare: radio.ethernetM > 0 && !CABLES[radio.cableKind].isOutdoor,
    lacksArrester: copperM > 0 && radio.ethernetM > 0 && radio.arresters < ARRESTERS,
    jumperMissingDb: Math.max(0, jumperDb - radio.cableLossDb),
    isBroken: !isRight || isTurned || tooLongM > 0 || isDry,
    voltsAtRadio: drop?.voltsAtLoad ?? null,
    leastV: rule?.leastV ?? null,
  };
}
