import { z } from "zod";

export const metresSchema = z.number().min(0).max(2000);
/** Cells from the middle to the rim. */
export const MOST_RINGS = 800;
export const placeSchema = z.object({ latDeg: z.number().min(-85).max(85), lonDeg: z.number().min(-180).max(180) });
const id = z.string().min(1).max(64);
/** A customer's kit. */
export const kitSchema = z.object({ radioModelId: id, antennaModelId: id, heightM: metresSchema });
/** A circle of cells. */
export const gridAskSchema = {
  middle: placeSchema,
  radiusM: z.number().min(100).max(60_000),
  cellM: z.number().min(5).max(1000),
};
