import { setPatch, type World } from "../../plan";
import { kitOf, mending, radioFaults, type Kit, type RadioFault } from "../kit/radios";
import type { Check } from "./check";

/** What holds an end: the bracket part that is planned for it, or the one in its radio's box. */
function holderOf(world: World, { radio, model }: Kit): { name: string; poleMm: [number, number] } {
  const part = world.parts.get(radio.bracketId ?? "");
  return part?.poleMm ? { name: part.model, poleMm: part.poleMm } : { name: model.model, poleMm: model.poleMm };
}

function poleFault(world: World, end: Kit): RadioFault | null {
  const site = world.sites.get(end.radio.siteId ?? "");
  if (!site) return null;
  const { name, poleMm } = holderOf(world, end);
  const [thinnest, thickest] = poleMm;
  const { poleDiameterMm } = site;
  if (poleDiameterMm >= thinnest && poleDiameterMm <= thickest) return null;
  const isThick = poleDiameterMm > thickest;
  return {
    what: `the pole is ${poleDiameterMm} mm; what holds ${name} takes ${thinnest} to ${thickest} mm`,
    why: isThick
      ? "The clamp does not close around it, and the crew climbs down again."
      : "The clamp does not grip: what it holds turns in the wind.",
    figure: { value: isThick ? poleDiameterMm - thickest : thinnest - poleDiameterMm, unit: "mm" },
  };
}

export const pole: Check = {
  id: "pole",
  title: "Pole does not fit",
  stage: "kit",
  ofPlan: (world) => radioFaults(world, (end) => poleFault(world, end)),
  remedies: (world, { radioId }) => {
    const brackets = [...world.parts.values()]
      .filter(({ kind, poleMm }) => kind === "bracket" && poleMm)
      .sort((x, y) => x.priceEur - y.priceEur);
    return mending(
      world,
      brackets.map(({ id, maker, model, poleMm }) => ({
        label: `Hold it with ${maker} ${model}`,
        effect: `for poles of ${poleMm![0]} to ${poleMm![1]} mm`,
        patches: [setPatch("radios", radioId!, { bracketId: id })],
      })),
      (then) => poleFault(then, kitOf(then, radioId!)) !== null,
    ).slice(0, MOST_TOLD);
  },
};
const MOST_TOLD = 3;
