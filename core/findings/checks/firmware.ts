import { accessPoints } from "../../addressing";
import { setPatch, type Radio, type World } from "../../plan";
import { mending, placedFaults } from "../kit/radios";
import type { Check } from "./check";

/** Customers' radios on which another version was found than on their access point. */
function behind(world: World): { radio: Radio; ap: Radio }[] {
  const found: { radio: Radio; ap: Radio }[] = [];
  for (const [id, apId] of accessPoints(world)) {
    const [radio, ap] = [world.radios.get(id), world.radios.get(apId)];
    if (radio && ap && radio.firmware !== "" && ap.firmware !== "" && radio.firmware !== ap.firmware)
      found.push({ radio, ap });
  }
  return found;
}

export const firmware: Check = {
  id: "firmware",
  title: "Firmware differs",
  stage: "staging",
  ofPlan: (world) =>
    placedFaults(
      world,
      behind(world).map(({ radio, ap }) => ({
        radio,
        fault: {
          what: `${radio.firmware} on it, ${ap.firmware} on ${ap.name}`,
          why: "A radio of another version may not see its access point at all: it is updated on the bench, before anybody climbs.",
          figure: null,
        },
      })),
    ),
  remedies: (world, { radioId }) => {
    const one = behind(world).find(({ radio }) => radio.id === radioId);
    if (!one) return [];
    const { radio, ap } = one;
    return mending(
      world,
      [
        {
          label: `Update it to ${ap.firmware} on the bench`,
          effect: `as ${ap.name} has it`,
          patches: [setPatch("radios", radio.id, { firmware: ap.firmware })],
        },
      ],
      (then) => behind(then).some((other) => other.radio.id === radio.id),
    );
  },
};
