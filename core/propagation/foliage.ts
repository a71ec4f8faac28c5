import { requireWithin } from "./bounds";

/**
 * Loss in dB through `depthM` of trees in leaf. Made for dense, dry, temperate woods between 0.23 and 95 GHz;
 * depths over 400 m are refused. Source: Weissberger's modified exponential decay, ESD-TR-81-101 (1982).
 */
export function foliageLossDb({ frequencyGHz, depthM }: { frequencyGHz: number; depthM: number }): number {
  requireWithin("depthM", depthM, 0, 400);
  requireWithin("frequencyGHz", frequencyGHz, 0.03, 120);
  return depthM < 14 ? 0.45 * frequencyGHz ** 0.284 * depthM : 1.33 * frequencyGHz ** 0.284 * depthM ** 0.588;
}
