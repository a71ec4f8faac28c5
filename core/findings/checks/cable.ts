import { CABLES, LONGEST_COPPER_M, powerChain } from "../../power";
import { endOf, setPatch } from "../../plan";
import { figure } from "../../words";
import { kitOf, mending, radioFaults, type Kit, type RadioFault } from "../kit/radios";
import type { Check } from "./check";

function lengthFault(end: Kit): RadioFault | null {
  const { copperM, tooLongM } = powerChain(end, end.switchPart);
  if (tooLongM <= 0) return null;
  return {
    what: `${figure(copperM, 0)} m of copper from the radio to the switch, ${figure(tooLongM, 0)} m more than Ethernet goes`,
    why: `${LONGEST_COPPER_M} m is the end, both sides of the injector counted together: it passes data on and starts nothing anew. Longer runs lose packets in the heat before they fail.`,
    figure: { value: tooLongM, unit: "m" },
  };
}

export const longCable: Check = {
  id: "longCable",
  title: "Cable too long",
  stage: "kit",
  ofPlan: (world) => radioFaults(world, lengthFault),
  remedies: (world, { radioId }) => {
    const { radio, model } = endOf(world, radioId!);
    const { name } = CABLES.fibre;
    const hasCage = model.ports.some((port) => port.startsWith("SFP"));
    return mending(
      world,
      [
        {
          label: `Lay ${name} instead of copper`,
          effect: hasCage
            ? `into the ${model.model}’s own cage; power on a lead of its own, no further than its injector allows`
            : "a media converter at both ends; power on a lead of its own, no further than its injector allows",
          patches: [setPatch("radios", radio.id, { cableKind: "fibre" })],
        },
        ...(radio.ethernetM <= LONGEST_COPPER_M && radio.indoorM > 1
          ? [
              {
                label: "Put the switch beside the injector",
                effect: `${figure(radio.ethernetM + 1, 0)} m in all`,
                patches: [setPatch("radios", radio.id, { indoorM: 1 })],
              },
            ]
          : []),
      ],
      (then) => lengthFault(kitOf(then, radio.id)) !== null,
    );
  },
};
