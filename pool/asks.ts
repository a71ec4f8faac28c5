import { z } from "zod";
import { learnedOverSchema } from "#core/coverage";

const id = z.string().min(1).max(64);
const metres = z.number().min(0).max(2000);
const place = z.object({ latDeg: z.number().min(-85).max(85), lonDeg: z.number().min(-180).max(180) });
/** A customer's kit. */
const kit = z.object({ radioModelId: id, antennaModelId: id, heightM: metres });
/** Cells from the middle to the rim. */
const MOST_RINGS = 800;
const circle = {
  middle: place,
  radiusM: z.number().min(100).max(60_000),
  cellM: z.number().min(5).max(1000),
};

/** The questions about many paths of a plan under a draft. */
export const viewAskSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("fromSite"), siteId: id, of: z.enum(["subscribers", "sites"]) }),
  z.object({ kind: z.literal("fromSubscriber"), subscriberId: id }),
  z.object({ kind: z.enum(["tilts", "headings", "gains", "widths", "beams"]), radioId: id }),
  z.object({ kind: z.enum(["clientAntennas", "mends", "hopWays"]), linkId: id }),
  z.object({ kind: z.literal("splits"), radioId: id, years: z.number().min(0).max(30) }),
  z.object({ kind: z.literal("hurts") }),
  z.object({ kind: z.literal("heardTape"), linkId: id, direction: z.enum(["down", "up"]), radioId: id }),
  z.object({ kind: z.literal("attach"), subscriberIds: z.array(id).min(1).max(500) }),
  z.object({ kind: z.literal("schools"), siteId: id, radiusM: z.number().min(100).max(40_000) }),
  z.object({ kind: z.literal("heardAt"), radioId: id, kit, place }),
  z.object({ kind: z.literal("bands"), linkId: id, demandMbps: z.number().min(0).max(100_000) }),
]);
export type ViewAsk = z.infer<typeof viewAskSchema>;

/** One part of a coverage: the losses of its cells from one antenna, with what measurements taught where that is to count. */
export const coverageAskSchema = z
  .object({
    ...circle,
    txHeightM: metres,
    rxHeightM: metres,
    frequencyGHz: z.number().min(0.03).max(1000),
    kFactor: z.number().positive().max(1000),
    season: z.enum(["inLeaf", "bare"]),
    learned: learnedOverSchema.nullable(),
    wedge: z.number().int().min(0).max(3),
  })
  .refine(({ radiusM, cellM }) => radiusM / cellM <= MOST_RINGS, {
    message: "more cells than are worked out at once: choose larger cells or a smaller circle",
    path: ["cellM"],
  });
export type CoverageAsk = z.infer<typeof coverageAskSchema>;

const MOST_CELLS = 4000;
const cell = z
  .number()
  .int()
  .min(0)
  .max((2 * MOST_RINGS + 1) ** 2 - 1);
/** Cells round a sector, and whose customers would stand there. */
export const cellsHearAskSchema = z.object({ radioId: id, kit, ...circle, cells: z.array(cell).max(MOST_CELLS) });
export type CellsHearAsk = z.infer<typeof cellsHearAskSchema>;
