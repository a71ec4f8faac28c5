import type { Remedy } from "../../trial";
import { peopleBehind, type Backbone, backboneOf } from "../../outcome";
import { endOf, withPatches, type LinkEnd, type Part, type Patch, type Radio, type World } from "../../plan";
import { billOf } from "../../bill";
import { feedingSwitch } from "../../power";
import { costChangeText } from "../../words";
import type { Figure, PlanFault } from "../checks/check";

/** What is wrong with one radio's kit. */
export interface RadioFault {
  what: string;
  why: string;
  figure: Figure | null;
}

/** A radio with its sheet, and the switch that feeds it: null for an injector of its own. */
export interface Kit extends Pick<LinkEnd, "radio" | "model"> {
  switchPart: Part | null;
}

/** One radio of a plan with its kit. */
export function kitOf(world: World, radioId: string): Kit {
  const { radio, model } = endOf(world, radioId);
  return { radio, model, switchPart: feedingSwitch(world, radio) };
}

/** Faults of a plan's radios by a test of each; places, people and links are looked up only once something is found. */
export function radioFaults(world: World, test: (kit: Kit) => RadioFault | null): PlanFault[] {
  const found: { radio: Radio; fault: RadioFault }[] = [];
  // Each step of a change in hand asks this of every radio of the plan.
  for (const radio of world.radios.values()) {
    const model = world.radioModels.get(radio.radioModelId);
    const fault = model ? test({ radio, model, switchPart: feedingSwitch(world, radio) }) : null;
    if (fault) found.push({ radio, fault });
  }
  return placedFaults(world, found);
}

/** Faults of some radios, placed in the plan. */
export function placedFaults(world: World, found: readonly { radio: Radio; fault: RadioFault }[]): PlanFault[] {
  if (found.length === 0) return [];
  const people = peopleByRadio(world);
  return found.map(({ radio, fault }) => ({
    ...fault,
    radioId: radio.id,
    about: [{ kind: "radios" as const, id: radio.id }],
    where: `${radio.name} at ${endOf(world, radio.id).placeName}`,
    cause: null,
    people: people(radio.id),
    linkId: null,
  }));
}

/** People behind each radio: those of its customers, or all behind its bridge. */
function peopleByRadio(world: World): (radioId: string) => number {
  let backbone: Backbone | null = null;
  const links = new Map<string, string[]>();
  for (const { id, aRadioId, bRadioId } of world.links.values())
    for (const end of [aRadioId, bRadioId]) {
      const own = links.get(end);
      if (own) own.push(id);
      else links.set(end, [id]);
    }
  return (radioId) =>
    (links.get(radioId) ?? []).reduce(
      (sum, id) => sum + peopleBehind(world, world.links.get(id)!, () => (backbone ??= backboneOf(world))),
      0,
    );
}

/** A change that may mend a fault of a radio or a site. */
interface Mend {
  label: string;
  effect: string;
  patches: Patch[];
}

/** Those of some changes after which a check finds the fault no more, each with what the whole bill then costs more or less. */
export function mending(world: World, mends: readonly Mend[], isWrong: (then: World) => boolean): Remedy[] {
  const { priceEur } = billOf(world);
  return mends.flatMap(({ label, effect, patches }): Remedy[] => {
    const then = withPatches(world, patches);
    if (isWrong(then)) return [];
    return [{ label, effect: `${effect}${costChangeText(billOf(then).priceEur - priceEur)}`, patches, visit: false }];
  });
}
