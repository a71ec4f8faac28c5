import type { LinkEnd, Procedure, Step } from "../plan";
import { familyOf } from "./families";
import { GENERAL } from "./families";
import { circleWords, mergeProcedures, type Where } from "./merge";

/** From this gain on a dish above 50 GHz goes up as a large one, dBi. */
const LARGE_DISH_DBI = 48;
const MILLIMETRE_MHZ = 50_000;

/** The families that an end's kit belongs to, by its radio's use and its antenna's shape. */
export function familiesOf({ model, antenna }: Pick<LinkEnd, "model" | "antenna">): Procedure[] {
  const gainDbi = Math.max(...antenna.gainAcrossBand.map(({ vDbi }) => vDbi));
  const isMillimetre = antenna.bandMHz[0] >= MILLIMETRE_MHZ;
  if (model.use === "sector")
    return antenna.receiveBeam ? [familyOf("slantSector"), familyOf("baseStation")] : [familyOf("slantSector")];
  if (isMillimetre) return [familyOf(gainDbi >= LARGE_DISH_DBI ? "gigabitLarge" : "gigabitSmall")];
  if (antenna.shape === "grid") return [familyOf("grid")];
  if (model.use === "bridge") return [familyOf(antenna.shape === "panel" ? "panelPair" : "petalDish")];
  return [familyOf(antenna.shape === "dish" ? "tubeDish" : "regionDish")];
}

/** The work at one end. */
export interface StepsOfEnd {
  steps: Step[];
  /** Whose procedures it is made of, by name. */
  procedures: string[];
  /** Own procedures that were left out, with the circle that they would make; empty where none was. */
  leftOut: { name: string; circle: string }[];
}

/**
 * One sheet for one end: what holds in general, with what its kit asks for and the own procedures that name its radio, antenna or bracket. An
 * own procedure that contradicts the others is left out, and said. Throws RangeError where those that ship contradict each other.
 */
export function procedureFor(
  end: Pick<LinkEnd, "model" | "antenna"> & { radio?: Pick<LinkEnd["radio"], "bracketId"> },
  where: Where,
  own: Iterable<Procedure> = [],
): StepsOfEnd {
  const taken = [GENERAL, ...familiesOf(end)];
  const shipped = mergeProcedures(taken, where);
  if (!shipped.steps) throw new RangeError(`the procedures contradict each other: ${circleWords(shipped.circle)}`);
  const leftOut: StepsOfEnd["leftOut"] = [];
  let { steps } = shipped;
  const kit = [end.model.id, end.antenna.id, end.radio?.bracketId];
  for (const procedure of own) {
    if (!procedure.forModels.some((id) => kit.includes(id))) continue;
    const merged = mergeProcedures([...taken, procedure], where);
    if (merged.steps) {
      taken.push(procedure);
      steps = merged.steps;
    } else leftOut.push({ name: procedure.name, circle: circleWords(merged.circle) });
  }
  return { steps, procedures: taken.map(({ name }) => name), leftOut };
}

/** The circle that a procedure's steps make with what holds in general, whichever way the path looks, in words; null where they make none. */
export function contradictionOf(procedure: Procedure, ruleSetId: string): string | null {
  for (const looks of ["up", "down"] as const) {
    const { circle } = mergeProcedures([GENERAL, procedure], { ruleSetId, looks });
    if (circle) return circleWords(circle);
  }
  return null;
}
