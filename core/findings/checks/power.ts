import { bears, harms, INJECTOR_WORDS, powerChain } from "../../power";
import { endOf, setPatch, type World } from "../../plan";
import { figure } from "../../words";
import { mending, radioFaults, type Kit, type RadioFault } from "../kit/radios";
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

/** Too little arrives over the cable at the radio's greatest load. */
function voltageFault(end: Kit): RadioFault | null {
  const { voltsAtRadio, leastV, isStarved, isDry, copperM } = powerChain(end);
  if (!isDry) return null;
  const { radio, model } = end;
  const why = `${figure(model.loadW)} W at its greatest load over ${figure(radio.ethernetM, 0)} m of copper at 50 °C. It restarts when it sends most.`;
  return {
    what: isStarved
      ? `${figure(copperM, 0)} m of this cable cannot carry what ${model.model} draws`
      : `${figure(voltsAtRadio!)} V arrive at ${model.model}, which needs ${figure(leastV!)}`,
    why,
    figure: isStarved ? null : { value: leastV! - voltsAtRadio!, unit: "V" },
  };
}

/** Whether one radio of a plan has a fault. */
const has = (test: (end: Kit) => RadioFault | null, radioId: string) => (world: World) =>
  world.radios.has(radioId) && test(endOf(world, radioId)) !== null;

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

export const lowVoltage: Check = {
  id: "lowVoltage",
  title: "Too little voltage at the radio",
  stage: "kit",
  ofPlan: (world) => radioFaults(world, voltageFault),
  remedies: (world, { radioId }) => {
    const { id } = world.radios.get(radioId!)!;
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
