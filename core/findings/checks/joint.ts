import { antennasFor, isJoined } from "../../kit";
import { endOf, setPatch, type World } from "../../plan";
import { figure } from "../../words";
import { kitOf, mending, radioFaults, type Kit, type RadioFault } from "../kit/radios";
import type { Check } from "./check";

function jointFault(world: World, { radio, model }: Kit): RadioFault | null {
  const antenna = world.antennaModels.get(radio.antennaModelId);
  if (!antenna || isJoined(model, antenna)) return null;
  return {
    what: `${antenna.maker} ${antenna.model} is joined by ${joined(antenna.join!)}; ${model.model} takes ${model.joins.map(joined).join(" or ")}`,
    why: "On the roof the two do not go together, and no adapter is planned.",
    figure: null,
  };
}
/** "two jacks", "a smooth waveguide", "one piece with its radio". */
const joined = (join: string) =>
  join === "in one piece" ? "one piece with its radio" : join.endsWith("jacks") ? join : `a ${join}`;

export const joint: Check = {
  id: "joint",
  title: "Antenna does not join its radio",
  stage: "kit",
  ofPlan: (world) => radioFaults(world, (kit) => jointFault(world, kit)),
  remedies: (world, { radioId }) => {
    const { radio, model, antenna } = endOf(world, radioId!);
    const fitting = antennasFor(world, radio.role, radio.frequencyMHz, model).sort(
      (x, y) => Number(x.shape !== antenna.shape) - Number(y.shape !== antenna.shape) || x.priceEur - y.priceEur,
    );
    return mending(
      world,
      fitting.slice(0, MOST_TOLD).map(({ id, maker, model: name, shape, gainAcrossBand }) => ({
        label: `Take ${maker} ${name}`,
        effect: `a ${shape} of ${figure(Math.max(...gainAcrossBand.map(({ vDbi }) => vDbi)))} dBi`,
        patches: [setPatch("radios", radio.id, { antennaModelId: id })],
      })),
      (then) => jointFault(then, kitOf(then, radio.id)) !== null,
    );
  },
};
const MOST_TOLD = 3;
