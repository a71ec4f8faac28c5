import { radioModelsFor } from "../../kit";
import { setPatch, type Radio, type World } from "../../plan";
import { mending, placedFaults, type RadioFault } from "../kit/radios";
import type { Check } from "./check";

/** An adaptive antenna on a radio that cannot turn its beam: it costs what it costs and listens as a plain one. */
function faultOf(world: World, radio: Radio): RadioFault | null {
  const antenna = world.antennaModels.get(radio.antennaModelId);
  const model = world.radioModels.get(radio.radioModelId);
  if (!antenna?.receiveBeam || !model || model.steersBeam) return null;
  return {
    what: `${model.model} cannot turn the beam of ${antenna.model}`,
    why: "It listens through the whole sector, as a plain antenna does: on no tape is the beam counted.",
    figure: null,
  };
}

export const idleBeam: Check = {
  id: "idleBeam",
  title: "Beam lies idle",
  stage: "kit",
  ofPlan: (world) =>
    placedFaults(
      world,
      [...world.radios.values()].flatMap((radio) => {
        const fault = faultOf(world, radio);
        return fault ? [{ radio, fault }] : [];
      }),
    ),
  remedies: (world, { radioId }) => {
    const radio = world.radios.get(radioId ?? "");
    if (!radio) return [];
    return mending(
      world,
      radioModelsFor(world, radio.role, radio.frequencyMHz)
        .filter(({ steersBeam }) => steersBeam)
        .map((model) => ({
          label: `Use ${model.model}, which turns it`,
          effect: "listens through the beam, customer by customer",
          patches: [setPatch("radios", radio.id, { radioModelId: model.id, injector: model.powerInput })],
        })),
      (then) => faultOf(then, then.radios.get(radio.id)!) !== null,
    );
  },
};
