import { requireWithin } from "./bounds";
import { EARTH_RADIUS_KM } from "./fresnel";
import { wavelengthM } from "./freeSpace";

export type LinearPolarization = "H" | "V";

interface SphericalEarthArgs {
  distanceKm: number;
  /** Heights of the antennas above the smooth earth, m. */
  txHeightM: number;
  rxHeightM: number;
  frequencyGHz: number;
  kFactor: number;
  polarization: LinearPolarization;
}

/** Ground constants over land: relative permittivity and conductivity (S/m), ITU-R P.526-15 §4.5.2. */
const LAND_PERMITTIVITY = 22;
const LAND_CONDUCTIVITY_S_PER_M = 0.003;

/** Height gain of one antenna at normalized height `y`, dB. P.526-15 eqs. 18 and 18a, with the floor of eq. 19. */
function heightGainDb(y: number, beta: number, admittance: number): number {
  const b = beta * y;
  const gainDb = b > 2 ? 17.6 * Math.sqrt(b - 1.1) - 5 * Math.log10(b - 1.1) - 8 : 20 * Math.log10(b + 0.1 * b ** 3);
  return Math.max(gainDb, 2 + 20 * Math.log10(admittance));
}

/** First term of the residue series for an effective radius `effectiveRadiusKm`, dB. P.526-15 §3.1.1, eqs. 12–19. */
function firstTermLossDb(args: SphericalEarthArgs, effectiveRadiusKm: number): number {
  const { distanceKm, txHeightM, rxHeightM, frequencyGHz, polarization } = args;
  const conduction = (18 * LAND_CONDUCTIVITY_S_PER_M) / frequencyGHz;
  const admittanceH =
    0.036 * (effectiveRadiusKm * frequencyGHz) ** (-1 / 3) * ((LAND_PERMITTIVITY - 1) ** 2 + conduction ** 2) ** -0.25;
  const admittance =
    polarization === "H" ? admittanceH : admittanceH * Math.sqrt(LAND_PERMITTIVITY ** 2 + conduction ** 2);
  const k2 = admittance ** 2;
  const beta = (1 + 1.6 * k2 + 0.67 * k2 * k2) / (1 + 4.5 * k2 + 1.53 * k2 * k2);
  const x = 21.88 * beta * (frequencyGHz / effectiveRadiusKm ** 2) ** (1 / 3) * distanceKm;
  const yPerM = 0.9575 * beta * (frequencyGHz ** 2 / effectiveRadiusKm) ** (1 / 3);
  const distanceTermDb = x >= 1.6 ? 11 + 10 * Math.log10(x) - 17.6 * x : -20 * Math.log10(x) - 5.6488 * x ** 1.425;
  return -(
    distanceTermDb +
    heightGainDb(yPerM * txHeightM, beta, admittance) +
    heightGainDb(yPerM * rxHeightM, beta, admittance)
  );
}

/**
 * Diffraction loss in dB over a smooth spherical earth, land, 0 where the path is clear of 0.55 of the first zone.
 * Refuses heights under 0 and distances of 0. Source: ITU-R P.526-15 §3.2, eqs. 21–27.
 */
export function sphericalEarthLossDb(args: SphericalEarthArgs): number {
  const { distanceKm, txHeightM, rxHeightM, frequencyGHz, kFactor } = args;
  requireWithin("distanceKm", distanceKm, 1e-6, 1e4);
  requireWithin("txHeightM", txHeightM, 0, 1e5);
  requireWithin("rxHeightM", rxHeightM, 0, 1e5);
  requireWithin("frequencyGHz", frequencyGHz, 0.03, 1000);
  if (!(kFactor > 0)) throw new RangeError(`kFactor is ${kFactor}; it must be above 0`);
  const radiusKm = kFactor * EARTH_RADIUS_KM;
  const horizonKm = Math.sqrt(2 * radiusKm) * (Math.sqrt(0.001 * txHeightM) + Math.sqrt(0.001 * rxHeightM));
  if (distanceKm >= horizonKm) return firstTermLossDb(args, radiusKm);

  const c = (txHeightM - rxHeightM) / (txHeightM + rxHeightM);
  const m = (250 * distanceKm ** 2) / (radiusKm * (txHeightM + rxHeightM));
  const b =
    2 *
    Math.sqrt((m + 1) / (3 * m)) *
    Math.cos(Math.PI / 3 + Math.acos(within(((3 * c) / 2) * Math.sqrt((3 * m) / (m + 1) ** 3), -1, 1)) / 3);
  const fromKm = within((distanceKm / 2) * (1 + b), 0, distanceKm);
  const toKm = distanceKm - fromKm;
  const clearanceM =
    ((txHeightM - (500 * fromKm ** 2) / radiusKm) * toKm + (rxHeightM - (500 * toKm ** 2) / radiusKm) * fromKm) /
    distanceKm;
  const requiredM = 17.456 * Math.sqrt((fromKm * toKm * wavelengthM(frequencyGHz)) / distanceKm);
  if (clearanceM > requiredM) return 0;

  const marginalRadiusKm = 500 * (distanceKm / (Math.sqrt(txHeightM) + Math.sqrt(rxHeightM))) ** 2;
  const lossDb = firstTermLossDb(args, marginalRadiusKm);
  if (lossDb < 0) return 0;
  // With an antenna on the ground the nearest point is its own foot, where no zone is left: the limit is the whole loss.
  return requiredM === 0 ? lossDb : (1 - clearanceM / requiredM) * lossDb;
}

/** Rounding puts the fitted figures of an antenna on the ground a hair beyond what they can be. */
const within = (value: number, least: number, most: number) => Math.min(most, Math.max(least, value));
