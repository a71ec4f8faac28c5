import { z } from "zod";
import { signedAngleDeg } from "../geodesy";

/**
 * What an adaptive antenna listens with: a narrow beam of many small elements, turned toward whichever customer sends. It sends by its
 * ordinary pattern.
 */
export const receiveBeamSchema = z.object({
  /** Full width at −3 dB, degrees. */
  widthDeg: z.number().min(1).max(120),
  /** How much more it hears where it looks than the ordinary pattern would, dB. */
  gainDb: z.number().min(0).max(20),
  /** How far it turns to either side of the antenna's boresight, degrees. */
  steersDeg: z.number().min(0).max(90),
  /** How far everything outside the beam lies under its peak, dB. */
  sideLobesDb: z.number().min(0).max(60),
});
export type ReceiveBeam = z.infer<typeof receiveBeamSchema>;

/** Where a beam looks for a customer, degrees off the boresight: at him, or as far toward him as it turns. */
export function beamTurnedDeg({ steersDeg }: ReceiveBeam, customerOffDeg: number): number {
  return Math.max(-steersDeg, Math.min(steersDeg, signedAngleDeg(customerOffDeg)));
}

/**
 * How much more a turned beam hears in a direction than the ordinary pattern, dB; negative outside of it. Directions are degrees off the
 * antenna's boresight. The beam falls with the square of the angle down to its side lobes (3GPP TR 36.814, table A.2.1.1-2).
 */
export function beamGainDb({ widthDeg, gainDb, sideLobesDb }: ReceiveBeam, turnedDeg: number, offDeg: number): number {
  return gainDb - Math.min(12 * (signedAngleDeg(offDeg - turnedDeg) / widthDeg) ** 2, sideLobesDb);
}
