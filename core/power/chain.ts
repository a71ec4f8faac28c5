import type { LinkEnd, Part } from "../plan";
import { bears, CABLES, DC_RULE, isTurnedAbout, LONGEST_COPPER_M, POWER_RULES } from "./inputs";
import { jumperLossDb } from "./jumper";
import { leadDrop, poeDrop } from "./poe";

/** A cable in the sun on a roof is that warm, °C: its copper resists most there. */
const WARM_C = 50;

/** One at either end of a cable. */
export const ARRESTERS = 2;

/** A radio's chain from its socket to the switch. */
export interface PowerChain {
  /** Copper from radio to switch, both sides of the injector, m; 0 over fibre. */
  copperM: number;
  tooLongM: number;
  /** The injector is one that the radio bears, or a switch feeds it. */
  isRight: boolean;
  /** Volts at the radio at its greatest load with warm copper; null where nothing carries its power, or the injector is wrong. */
  voltsAtRadio: number | null;
  leastV: number | null;
  /** The cable cannot carry that power at all. */
  isStarved: boolean;
  /** What its injector or socket gives at most, W, and how much less that is than the radio and its cable take. */
  mostW: number | null;
  overW: number;
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

/** What a radio is fed from: the switch of its site, or null for an injector of its own. */
type FedBy = Pick<Part, "standard"> | null;

/** How a radio's power comes: over its data cable, or over a lead of its own; null where nothing brings it. */
function feedOf({ radio, model }: Pick<LinkEnd, "radio" | "model">, switchPart: FedBy) {
  const { awg } = CABLES[radio.cableKind];
  const isRight = switchPart !== null || bears(model.powerInput, radio.injector);
  if (!isRight) return { isRight, rule: null, drop: null };
  // An injector stands where the indoor cable begins; a switch feeds all of it.
  const lengthM = radio.ethernetM + (switchPart === null ? 0 : radio.indoorM);
  const common = { loadW: model.loadW, temperatureC: WARM_C };
  if (model.powerInput === "dc48") {
    const { sourceV } = DC_RULE;
    const drop = leadDrop({ ...common, sourceV, leadM: lengthM, leadMm2: radio.leadMm2 });
    return { isRight, rule: DC_RULE, drop };
  }
  if (awg === null) return { isRight, rule: null, drop: null };
  const rule = POWER_RULES[model.powerInput];
  // A later standard gives more than the radio asks for; a switch on direct current gives each radio its own kind.
  const given = switchPart === null ? radio.injector : switchPart.standard;
  const { mostW } = given in POWER_RULES ? POWER_RULES[given as keyof typeof POWER_RULES] : rule;
  const drop = poeDrop({ ...common, sourceV: rule.sourceV, cableM: lengthM, awg, pairs: rule.pairs });
  return { isRight, rule: { ...rule, mostW }, drop };
}

/**
 * The chain of one end of a plan. The radio is taken to draw all that its sheet names. `switchPart` is what feeds it where its site's switch
 * does (`feedingSwitch`).
 */
export function powerChain(end: Pick<LinkEnd, "radio" | "model">, switchPart: FedBy): PowerChain {
  const { radio } = end;
  const { awg, mostMbps } = CABLES[radio.cableKind];
  const copperM = awg === null ? 0 : radio.ethernetM + radio.indoorM;
  const { isRight, rule, drop } = feedOf(end, switchPart);
  const tooLongM = Math.max(0, copperM - LONGEST_COPPER_M);
  const isStarved = rule !== null && drop === null;
  const jumperDb = jumperLossDb({ frequencyMHz: radio.frequencyMHz, lengthM: radio.jumperM });
  const isTurned = isTurnedAbout(radio);
  const takenW = end.model.loadW + (drop?.lossW ?? 0);
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
    mostW: rule?.mostW ?? null,
    overW: rule === null || isStarved ? 0 : Math.max(0, takenW - rule.mostW),
  };
}
