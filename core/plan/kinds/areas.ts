import { z } from "zod";
import { COVER_KINDS } from "../../terrain";
import { field, keys, kindOf, latDeg, LONGEST_NAME, lonDeg } from "./field";

const lonLat = z.tuple([lonDeg, latDeg]);

/** A wood, a building or the like with its own outline: drawn by hand or read from footprints. Outer ring first, then courts. */
export const areaSchema = z.object({
  ...keys,
  name: field(z.string().max(LONGEST_NAME), { label: "Name" }),
  kind: field(z.enum(COVER_KINDS), { label: "Cover" }),
  heightM: field(z.number().min(0).max(300), { label: "Height", unit: "m" }),
  density: field(z.number().min(0.1).max(1), {
    label: "Density, 0.1 to 1",
    short: "density",
    help: "How thick trees stand, as a share of a closed wood.",
  }),
  rings: field(z.array(z.array(lonLat).min(4).max(20_000)).min(1).max(200), { label: "Outline" }),
});
export type Area = z.infer<typeof areaSchema>;
export const areas = kindOf(areaSchema, { one: "outline", many: "outlines" });
