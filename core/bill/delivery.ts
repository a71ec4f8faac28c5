import type { Patch, Radio, World } from "../plan";
import { billOf, type BillLine } from "./bill";

/** What of a change is longest on its way. */
interface Delivery {
  days: number;
  name: string;
  /** Items that the change needs more of and whose delivery nobody knows. */
  unknown: number;
}

/** The longest delivery among what a change needs more of than the plan before it; null where it needs nothing more. Spares are not waited for. */
export function deliveryOf(before: World, after: World, patches: readonly Patch[]): Delivery | null {
  const named = new Set(patches.flatMap(({ kind, id }) => (kind === "radios" ? [id] : [])));
  const needs = (world: World): Map<string, BillLine> => {
    const radios = [...named].flatMap((id): Radio[] => {
      const radio = world.radios.get(id);
      return radio ? [radio] : [];
    });
    return new Map(billOf(world, radios, []).lines.map((line) => [line.itemId, line]));
  };
  const had = needs(before);
  const more = [...needs(after).values()].filter(
    ({ itemId, kind, needed }) => !CARRIED.has(kind) && needed > (had.get(itemId)?.needed ?? 0),
  );
  if (more.length === 0) return null;
  const slowest = more.reduce((last, line) => ((line.deliveryDays ?? -1) > (last.deliveryDays ?? -1) ? line : last));
  return {
    days: slowest.deliveryDays ?? 0,
    name: slowest.name,
    unknown: more.filter(({ deliveryDays }) => deliveryDays === null).length,
  };
}
/** Every crew has them in the car. */
const CARRIED: ReadonlySet<string> = new Set(["tool", "tape"]);
