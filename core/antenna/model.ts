import { z } from "zod";
import { receiveBeamSchema } from "./receiveBeam";

/**
 * A cut through an antenna's pattern: loss below the peak (dB, ≥ 0) at rising angles from the peak, −180 to 180°.
 * Between the angles it runs straight, so a dish of half a degree needs no finer table than an omni.
 */
export const cutSchema = z
  .object({
    anglesDeg: z.array(z.number().min(-180).max(180)).min(3),
    lossDb: z.array(z.number().min(0).max(100)).min(3),
  })
  .refine((cut) => cut.anglesDeg.length === cut.lossDb.length, "anglesDeg and lossDb need the same length")
  .refine((cut) => cut.anglesDeg.every((angle, i) => i === 0 || angle > cut.anglesDeg[i - 1]!), "anglesDeg must rise")
  .refine((cut) => cut.anglesDeg[0] === -180 && cut.anglesDeg.at(-1) === 180, "anglesDeg must run from −180 to 180");
export type Cut = z.infer<typeof cutSchema>;

/** How an antenna is joined to its radio. */
export const JOINS = ["two jacks", "four jacks", "smooth waveguide", "threaded waveguide", "in one piece"] as const;

export const ANTENNA_SHAPES = ["omni", "sector", "horn", "panel", "grid", "dish"] as const;

const gainDbi = z.number().min(-10).max(60);
/** A sheet may give one gain for both polarizations. */
const gainPointSchema = z.preprocess(
  (point) =>
    point !== null && typeof point === "object" && "gainDbi" in point
      ? { hDbi: point.gainDbi, vDbi: point.gainDbi, ...point }
      : point,
  z.object({ frequencyMHz: z.number().positive(), hDbi: gainDbi, vDbi: gainDbi }),
);

export const antennaModelSchema = z.object({
  id: z.string(),
  maker: z.string(),
  model: z.string(),
  shape: z.enum(ANTENNA_SHAPES),
  bandMHz: z.tuple([z.number().positive(), z.number().positive()]),
  /** Peak gain of either polarization at rising frequencies across the band, dBi. */
  gainAcrossBand: z
    .array(gainPointSchema)
    .min(1)
    .refine(
      (points) => points.every((point, i) => i === 0 || point.frequencyMHz > points[i - 1]!.frequencyMHz),
      "frequencies must rise",
    ),
  azimuthCuts: z.object({ H: cutSchema, V: cutSchema }),
  elevationCuts: z.object({ H: cutSchema, V: cutSchema }),
  frontToBackDb: z.number().min(0).max(80),
  electricalTiltDownDeg: z.number().min(-20).max(20),
  /** How far the bracket lets the antenna point above and below the horizon; turned over, the two change places. */
  bracketUpDeg: z.number().min(0).max(90),
  bracketDownDeg: z.number().min(0).max(90),
  /** Isolation between the two polarizations, dB. */
  crossPolarDb: z.number().min(0).max(60),
  /** What an adaptive antenna listens with; null for one that listens as it sends. */
  receiveBeam: receiveBeamSchema.nullable().default(null),
  /** How it is joined to its radio; null where the sheet does not say. */
  join: z.enum(JOINS).nullable().default(null),
  weightKg: z.number().positive(),
  priceEur: z.number().min(0),
  /** From the order to the door; null where nobody knows. */
  deliveryDays: z.number().int().min(0).max(730).nullable().default(null),
});
export type AntennaModel = z.infer<typeof antennaModelSchema>;
