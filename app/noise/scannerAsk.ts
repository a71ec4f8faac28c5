import { plainFigure } from "#core/words";
import { z } from "zod";

/** A figure as people type it, decimal comma and printed minus included. */
export const typedFigure = (min: number, max: number, unit: string) =>
  z
    .string("is missing")
    .transform((text) => Number(plainFigure(text) || NaN))
    .pipe(z.number("is not a number").min(min, `is under ${min} ${unit}`).max(max, `is over ${max} ${unit}`));

/** What a scanner is asked to listen to. */
export const scannerAskSchema = z
  .object({
    siteId: z.string("needs a site").min(1, "needs a site"),
    headings: z
      .string("need at least one")
      .transform((text) =>
        text
          .split(/[\s,;]+/)
          .filter(Boolean)
          .map(Number),
      )
      .pipe(
        z
          .array(z.number("are numbers, with blanks between them").min(0, "go from 0°").max(360, "go to 360°"))
          .min(1, "need at least one")
          .max(36, "are more than 36"),
      ),
    beamwidthDeg: typedFigure(1, 360, "°"),
    gainDbi: typedFigure(-10, 60, "dBi"),
    fromMHz: typedFigure(100, 100_000, "MHz"),
    toMHz: typedFigure(100, 100_000, "MHz"),
    binKHz: typedFigure(10, 100_000, "kHz"),
    scannerUrl: z.string().trim().optional().default(""),
    /** Ticked where the stand-in is wanted in a plan that is no demo. */
    standIn: z.string().optional(),
  })
  .refine(({ fromMHz, toMHz }) => fromMHz < toMHz, { path: ["toMHz"], message: "is not above where it begins" });
