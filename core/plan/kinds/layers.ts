import { z } from "zod";
import { field, keys, kindOf, moment, name } from "./field";

export const LAYER_KINDS = ["bare", "surface", "cover"] as const;
const count = z.number().int().positive().max(400_000);
const cellDeg = z.number().positive().max(1);
const made = (label: string, unit?: string) => ({ label, setBy: "tejado" as const, ...(unit ? { unit } : {}) });

/** One raster of the ground or of what stands on it; its cells lie in tiles under its id. */
export const layerSchema = z.object({
  ...keys,
  name: field(name, { label: "Name" }),
  kind: field(z.enum(LAYER_KINDS), {
    label: "Kind",
    help: "A surface has trees and roofs in its heights, so nothing is stacked on it; cover has no ground of its own.",
    words: { bare: "bare ground", surface: "surface", cover: "cover" },
  }),
  westDeg: field(z.number().min(-181).max(181), made("West edge", "°")),
  northDeg: field(z.number().min(-91).max(91), made("North edge", "°")),
  cellLonDeg: field(cellDeg, made("Cell width", "°")),
  cellLatDeg: field(cellDeg, made("Cell height", "°")),
  columns: field(count, made("Columns")),
  rows: field(count, made("Rows")),
  holeCount: field(z.number().int().min(0), made("Cells without a value")),
  addedAt: field(moment, made("Added")),
});
export type Layer = z.infer<typeof layerSchema>;
export const layers = kindOf(layerSchema, { one: "terrain layer", many: "terrain" });
