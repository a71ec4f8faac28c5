import { bears, harms, INJECTOR_WORDS, powerChain, POWER_RULES } from "../../power";
import { endOf, setPatch, type World } from "../../plan";
import { figure } from "../../words";
import { kitOf, mending, radioFaults, type Kit, type RadioFault } from "../kit/radios";
import type { Check } from "./check";

/** The injector a radio is planned with is not one that it bears; those that harm it and those that only do not feed it are two findings. */
const injectorFault =
  (isHarm: boolean) =>
  ({ radio, model }: Kit): RadioFault | null => {
    const { injector } = radio;
    if (bears(model.powerInput, injector) || harms(model.powerInput, injector) !== isHarm) return null;
    const needs = `${model.model} needs ${INJECTOR_WORDS[model.powerInput]}`;
    return {
      what: `${INJECTOR_WORDS[injector]}; ${needs}`,
      why: isHarm
        ? "Another voltage, or voltage on other pairs, destroys the radio in a moment. Kinds of power over Ethernet do not mix."
        : "The radio does not start, or starts again and again.",
      figure: null,
    };
  };

/** Metres over which a radio's power comes: to its injector, or all the way to the switch that feeds it. */
const fedM = ({ radio, switchPart }: Kit): number => radio.ethernetM + (switchPart ? radio.indoorM : 0);

/** Its injector, or its socket of the switch, gives less than the radio and its cable take. */
function sourceFault(end: Kit): RadioFault | null {
  const { overW, mostW } = powerChain(end, end.switchPart);
  if (overW <= 0) return null;
  const source = end.switchPart ? `a socket of ${end.switchPart.model}` : INJECTOR_WORDS[end.radio.injector];
  return {
    what: `${end.model.model} and its cable take ${figure(mostW! + overW)} W, ${source} gives ${figure(mostW!)}`,
    why: "At its greatest load the source turns off, and the radio starts again and again.",
    figure: { value: overW, unit: "W" },
  };
}

/** Too little arrives over the cable at the radio's greatest load. */
function voltageFault(end: Kit): RadioFault | null {
  const { voltsAtRadio, leastV, isStarved, isDry, copperM } = powerChain(end, end.switchPart);
  if (!isDry) return null;
  const { radio, model } = end;
  const isLead = model.powerInput === "dc48";
  const way = isLead ? `a lead of ${figure(radio.leadMm2)} mm²` : "copper";
  const why = `${figure(model.loadW)} W at its greatest load over ${figure(fedM(end), 0)} m of ${way} at 50 °C. It restarts when it sends most.`;
  return {
    what: isStarved
      ? `${figure(isLead ? fedM(end) : copperM, 0)} m of ${isLead ? "this lead" : "this cable"} cannot carry what ${model.model} draws`
      : `${figure(voltsAtRadio!)} V arrive at ${model.model}, which needs ${figure(leastV!)}`,
    why,
    figure: isStarved ? null : { value: leastV! - voltsAtRadio!, unit: "V" },
  };
}

/** Whether one radio of a plan has a fault. */
const has = (test: (end: Kit) => RadioFault | null, radioId: string) => (world: World) =>
  world.radios.has(radioId) && test(kitOf(world, radioId)) !== null;

/** A finding about injectors, with the kind that the radio is made for as its way out. */
function injectorCheck(id: string, title: string, isHarm: boolean): Check {
  const test = injectorFault(isHarm);
  return {
    ...{ id, title, stage: "kit" },
    ofPlan: (world) => radioFaults(world, test),
    remedies: (world, { radioId }) => {
      const { radio, model } = endOf(world, radioId!);
      const injector = model.powerInput;
      return mending(
        world,
        [
          {
            label: `Plan ${INJECTOR_WORDS[injector]}`,
            effect: `what ${model.model} is made for`,
            patches: [setPatch("radios", radio.id, { injector })],
          },
        ],
        has(test, radio.id),
      );
    },
  };
}

export const wrongInjector = injectorCheck("wrongInjector", "Injector destroys the radio", true);
export const notFed = injectorCheck("notFed", "Radio is not fed", false);

export const smallSource: Check = {
  id: "smallSource",
  title: "Injector gives too little",
  stage: "kit",
  ofPlan: (world) => radioFaults(world, sourceFault),
  remedies: (world, { radioId }) => {
    const { radio, model, switchPart } = kitOf(world, radioId!);
    if (switchPart) return [];
    const kinds = (Object.keys(POWER_RULES) as (keyof typeof POWER_RULES)[]).filter(
      (kind) => kind !== radio.injector && bears(model.powerInput, kind),
    );
    return mending(
      world,
      kinds.map((injector) => ({
        label: `Plan ${INJECTOR_WORDS[injector]}`,
        effect: `gives ${figure(POWER_RULES[injector].mostW)} W`,
        patches: [setPatch("radios", radio.id, { injector })],
      })),
      has(sourceFault, radio.id),
    );
  },
};

/** Thicker leads that are offered, mm². */
const LEADS_MM2 = [4, 6, 10, 16];

export const lowVoltage: Check = {
  id: "lowVoltage",
  title: "Too little voltage at the radio",
  stage: "kit",
  ofPlan: (world) => radioFaults(world, voltageFault),
  remedies: (world, { radioId }) => {
    const { radio, model } = kitOf(world, radioId!);
    const { id } = radio;
    if (model.powerInput === "dc48")
      return mending(
        world,
        LEADS_MM2.filter((leadMm2) => leadMm2 > radio.leadMm2).map((leadMm2) => ({
          label: `Lay a lead of ${leadMm2} mm²`,
          effect: "each conductor",
          patches: [setPatch("radios", id, { leadMm2 })],
        })),
        has(voltageFault, id),
      ).slice(0, 1);
    return mending(
      world,
      [
        {
          label: "Lay cable of category 6A",
          effect: "thicker conductors, 23 AWG",
          patches: [setPatch("radios", id, { cableKind: "cat6a" })],
        },
        {
          label: "Lay fibre, and feed the radio where it stands",
          effect: "power no longer comes over the data cable",
          patches: [setPatch("radios", id, { cableKind: "fibre" })],
        },
      ],
      has(voltageFault, id),
    );
  },
};
