import type { LinkEnd } from "../plan";
import { familyOf } from "./families";
import { GENERAL } from "./general";
import { circleWords, mergeProcedures, type Where } from "./merge";
import type { Procedure, Step } from "./model";

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

/** One sheet for one end: what holds in general with what its kit asks for, and by name. Throws RangeError for procedures that contradict each other. */
export function procedureFor(
  end: Pick<LinkEnd, "model" | "antenna">,
  where: Where,
): { steps: Step[]; procedures: string[] } {
  const procedures = [GENERAL, ...familiesOf(end)];
  const { steps, circle } = mergeProcedures(procedures, where);
  if (!steps) throw new RangeError(`the procedures contradict each other: ${circleWords(circle)}`);
  return { steps, procedures: procedures.map(({ name }) => name) };
}
