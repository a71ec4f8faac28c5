import { ARRESTERS, CABLES, isTurnedAbout, jumperLossDb, powerChain } from "../../power";
import { endOf, setPatch, type Radio, type RadioRow } from "../../plan";
import { figure } from "../../words";
import { kitOf, mending, radioFaults, type Kit, type RadioFault } from "../kit/radios";
import type { StageId } from "../stages";
import type { Check } from "./check";

/** A finding about one radio's chain that a change of its own fields mends. */
function chainCheck(
  id: string,
  title: string,
  test: (end: Kit) => RadioFault | null,
  mend: (radio: Radio) => { label: string; effect: string; fields: Partial<RadioRow> },
  stage: StageId = "kit",
): Check {
  return {
    ...{ id, title, stage },
    ofPlan: (world) => radioFaults(world, test),
    remedies: (world, { radioId }) => {
      const { radio } = endOf(world, radioId!);
      const { label, effect, fields } = mend(radio);
      const patches = [setPatch("radios", radio.id, fields)];
      return mending(world, [{ label, effect, patches }], (then) => test(kitOf(then, radio.id)) !== null);
    },
  };
}

export const polarity = chainCheck(
  "polarity",
  "Crossed lead destroys the radio",
  ({ radio, model }) =>
    isTurnedAbout(radio)
      ? {
          what: `a crossed lead turns plus and minus about at ${model.model}`,
          why: "Power of this kind does not find out for itself which way round it comes. The radio is gone in a moment.",
          figure: null,
        }
      : null,
  () => ({ label: "Plan a straight lead", effect: "plus to plus", fields: { wiring: "straight" } }),
);

export const indoorCable = chainCheck(
  "indoorCable",
  "Indoor cable outdoors",
  (end) => {
    const { radio } = end;
    if (CABLES[radio.cableKind].isOutdoor || !powerChain(end, end.switchPart).isBare) return null;
    return {
      what: `${figure(radio.ethernetM, 0)} m of ${CABLES[radio.cableKind].name} up to the radio`,
      why: "Sun and frost open its jacket within a few years, water runs down inside it, and without a shield and metal plugs each flash nearby reaches the radio.",
      figure: { value: radio.ethernetM, unit: "m" },
    };
  },
  () => ({
    label: "Lay shielded outdoor cable of category 5e",
    effect: "with metal plugs, its shield earthed",
    fields: { cableKind: "cat5e" },
  }),
);

export const arrester = chainCheck(
  "arrester",
  "Surge arrester missing",
  (end) => {
    const { radio } = end;
    if (radio.arresters >= ARRESTERS || !powerChain(end, end.switchPart).lacksArrester) return null;
    return {
      what: `${radio.arresters === 0 ? "no surge arrester" : "one surge arrester"} on copper that runs outdoors`,
      why: "One at either end: the one below saves the switch, the one above the radio. Where and how they are earthed is for the local code and a licensed electrician.",
      figure: { value: ARRESTERS - radio.arresters, unit: "" },
    };
  },
  () => ({ label: "Plan one at either end", effect: "both earthed", fields: { arresters: ARRESTERS } }),
);

/** So much may be missing before it is worth a finding, dB. */
const LEAST_MISSING_DB = 0.3;

export const jumpers = chainCheck(
  "jumpers",
  "Jumpers not in the budget",
  (end) => {
    const { radio } = end;
    if (radio.jumperM <= 0) return null;
    const { jumperDb, jumperMissingDb } = powerChain(end, end.switchPart);
    if (jumperMissingDb < LEAST_MISSING_DB) return null;
    return {
      what: `jumpers of ${figure(radio.jumperM)} m take ${figure(jumperDb)} dB with their connectors; the budget holds ${figure(radio.cableLossDb)}`,
      why: "Every link of this radio is reckoned that much too strong, both ways.",
      figure: { value: jumperMissingDb, unit: "dB" },
    };
  },
  (radio) => {
    const jumperDb = jumperLossDb({ frequencyMHz: radio.frequencyMHz, lengthM: radio.jumperM });
    return {
      label: `Set its cable loss to ${figure(jumperDb)} dB`,
      effect: "as its jumpers take",
      fields: { cableLossDb: Math.ceil(jumperDb * 10) / 10 },
    };
  },
);
