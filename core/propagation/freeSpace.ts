import { requireWithin } from "./bounds";

/** Speed of light in vacuum, m/s (exact, SI). */
const SPEED_OF_LIGHT_M_PER_S = 299_792_458;

/** Wavelength in metres at `frequencyGHz`. */
export function wavelengthM(frequencyGHz: number): number {
  return SPEED_OF_LIGHT_M_PER_S / (frequencyGHz * 1e9);
}

/**
 * Free-space basic transmission loss in dB between isotropic antennas, 20 log10(4πd/λ).
 * Refuses distances of zero or less and frequencies outside 0.03–1000 GHz. Source: ITU-R P.525-4 §2.3, eq. 4.
 */
export function freeSpaceLossDb({ distanceKm, frequencyGHz }: { distanceKm: number; frequencyGHz: number }): number {
  requireWithin("distanceKm", distanceKm, 1e-6, 1e6);
  requireWithin("frequencyGHz", frequencyGHz, 0.03, 1000);
  return 20 * Math.log10((4 * Math.PI * distanceKm * 1000) / wavelengthM(frequencyGHz));
}
