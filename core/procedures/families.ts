import { z } from "zod";
import { procedureSchema, type Procedure } from "../plan";
import families from "./families.json" with { type: "json" };
import general from "./general.json" with { type: "json" };

/** How the invented kinds of kit of the library go together, each as its maker tells it; noted 2026-11-26. */
export const FAMILIES: readonly Procedure[] = z.array(procedureSchema).parse(families);

/** What holds for everything that goes up, whatever its maker says; a family's own step of the same id takes its place. */
export const GENERAL = procedureSchema.parse(general);

/** Finds a family. Throws RangeError for an unknown id. */
export function familyOf(id: string): Procedure {
  const found = FAMILIES.find((one) => one.id === id);
  if (!found) throw new RangeError(`there is no procedure "${id}"`);
  return found;
}
