import { radiosOnMast, radiosOnMasts, strikesOn, type OnMast, type Strike } from "../../mast";
import { setPatch, type World } from "../../plan";
import { figure } from "../../words";
import { mending, placedFaults } from "../kit/radios";
import type { Check } from "./check";

/** What strikes on all masts of a plan. */
function strikesIn(world: World): Strike[] {
  const masts = new Map<string, OnMast[]>();
  for (const one of radiosOnMasts(world)) {
    const siteId = one.end.radio.siteId!;
    const own = masts.get(siteId);
    if (own) own.push(one);
    else masts.set(siteId, [one]);
  }
  return [...masts.values()].flatMap((hung) => (hung.length > 1 ? strikesOn(hung) : []));
}

const strikeOf = (world: World, radioId: string): Strike | undefined =>
  strikesOn(radiosOnMast(world, world.radios.get(radioId)?.siteId ?? "")).find(({ lowerId }) => lowerId === radioId);

export const swing: Check = {
  id: "swing",
  title: "Antennas strike when turned",
  stage: "kit",
  ofPlan: (world) =>
    placedFaults(
      world,
      strikesIn(world).map(({ upperId, lowerId, apartM, neededM }) => ({
        radio: world.radios.get(lowerId)!,
        fault: {
          what: `${figure(apartM, 2)} m under ${world.radios.get(upperId)!.name}; they pass each other from ${figure(neededM, 2)} m`,
          why: "Both look much the same way and hang side by side: one cannot be swept past its peak without pushing the other off its own. Sizes are estimated from the beams; measure them.",
          figure: { value: neededM - apartM, unit: "m" },
        },
      })),
    ),
  remedies: (world, { radioId }) => {
    const strike = strikeOf(world, radioId!);
    if (!strike) return [];
    const { upperId, lowerId, neededM } = strike;
    const [upper, lower] = [world.radios.get(upperId)!, world.radios.get(lowerId)!];
    const top = world.sites.get(lower.siteId!)!.structureHeightM;
    const moves = [
      { radio: lower, heightM: Math.floor((upper.heightM - neededM) * 10 + SAME) / 10 },
      { radio: upper, heightM: Math.ceil((lower.heightM + neededM) * 10 - SAME) / 10 },
    ].filter(({ heightM }) => heightM >= LEAST_HEIGHT_M && heightM <= top);
    return mending(
      world,
      moves.map(({ radio, heightM }) => ({
        label: `Hang ${radio.name} at ${figure(heightM)} m`,
        effect: `${figure(Math.abs(heightM - radio.heightM))} m ${heightM < radio.heightM ? "lower" : "higher"} than now`,
        patches: [setPatch("radios", radio.id, { heightM })],
      })),
      (then) => strikesIn(then).some((one) => one.lowerId === lowerId || one.upperId === lowerId),
    );
  },
};
/** Nothing is hung lower than this, m. */
const LEAST_HEIGHT_M = 2;
/** What rounding may leave of a tenth. */
const SAME = 1e-6;
