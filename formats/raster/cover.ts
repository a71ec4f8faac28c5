import { COVER_KINDS, coverCode, UNKNOWN_COVER } from "#core/terrain";
import { z } from "zod";
import { emptyTile, type CellWriter } from "./layer";
import { RasterError } from "./error";

/** What each class of a land-cover raster stands for. */
export const legendSchema = z
  .array(
    z.object({
      value: z.number().int().min(0).max(65535),
      kind: z.enum(COVER_KINDS),
      heightM: z.number().min(0).max(300),
      density: z.number().min(0.1).max(1),
    }),
  )
  .min(1, "needs at least one class")
  .max(256);
export type Legend = z.infer<typeof legendSchema>;

/** Writes classes as cover; a class that the legend does not name is refused, so that none is overlooked. */
export function coverWriter(legend: Legend): CellWriter {
  const byValue = new Map(legend.map((entry) => [entry.value, entry]));
  return {
    mixes: false,
    empty: () => {
      const tile = emptyTile();
      tile.coverCode.fill(UNKNOWN_COVER);
      return tile;
    },
    put: (tile, offset, value) => {
      const entry = byValue.get(value);
      if (!entry)
        throw new RasterError(`the raster holds class ${value}, which the legend does not name`, {
          todo: "Add that class to the legend, as open ground if nothing stands there.",
        });
      tile.coverCode[offset] = coverCode(entry.kind, entry.density);
      tile.coverHeightM[offset] = entry.heightM;
    },
  };
}
