import { requireWithin } from "./bounds";
import type { LinearPolarization } from "./sphericalEarth";

interface RegressionCurve {
  a: number[];
  b: number[];
  c: number[];
  slope: number;
  offset: number;
}

/** Regression constants of ITU-R P.838-3, tables 1 to 4. */
const K_CURVES: Record<LinearPolarization, RegressionCurve> = {
  H: {
    a: [-5.3398, -0.35351, -0.23789, -0.94158],
    b: [-0.10008, 1.2697, 0.86036, 0.64552],
    c: [1.13098, 0.454, 0.15354, 0.16817],
    slope: -0.18961,
    offset: 0.71147,
  },
  V: {
    a: [-3.80595, -3.44965, -0.39902, 0.50167],
    b: [0.56934, -0.22911, 0.73042, 1.07319],
    c: [0.81061, 0.51059, 0.11899, 0.27195],
    slope: -0.16398,
    offset: 0.63297,
  },
};
const ALPHA_CURVES: Record<LinearPolarization, RegressionCurve> = {
  H: {
    a: [-0.14318, 0.29591, 0.32177, -5.3761, 16.1721],
    b: [1.82442, 0.77564, 0.63773, -0.9623, -3.2998],
    c: [-0.55187, 0.19822, 0.13164, 1.47828, 3.4399],
    slope: 0.67849,
    offset: -1.95537,
  },
  V: {
    a: [-0.07771, 0.56727, -0.20238, -48.2991, 48.5833],
    b: [2.3384, 0.95545, 1.1452, 0.791669, 0.791459],
    c: [-0.76284, 0.54039, 0.26809, 0.116226, 0.116479],
    slope: -0.053739,
    offset: 0.83433,
  },
};

function evaluate(curve: RegressionCurve, logF: number): number {
  let sum = curve.slope * logF + curve.offset;
  for (let i = 0; i < curve.a.length; i++) sum += curve.a[i]! * Math.exp(-(((logF - curve.b[i]!) / curve.c[i]!) ** 2));
  return sum;
}

/** Coefficients of specific attenuation γ = k·R^α (dB/km, R in mm/h), 1 to 1000 GHz. Source: ITU-R P.838-3, eqs. 2 and 3. */
export function rainCoefficients({
  frequencyGHz,
  polarization,
}: {
  frequencyGHz: number;
  polarization: LinearPolarization;
}): { k: number; alpha: number } {
  requireWithin("frequencyGHz", frequencyGHz, 1, 1000);
  const logF = Math.log10(frequencyGHz);
  return { k: 10 ** evaluate(K_CURVES[polarization], logF), alpha: evaluate(ALPHA_CURVES[polarization], logF) };
}

/**
 * Rain attenuation in dB exceeded for `percentOfTime` (0.001 to 1 %) of an average year, from the rain rate exceeded
 * for 0.01 %. Distances to 60 km, 1 to 100 GHz. Source: ITU-R P.530-17 §2.4.1, eqs. 32–34.
 */
export function rainAttenuationDb({
  frequencyGHz,
  polarization,
  distanceKm,
  rainRate001MmPerH,
  percentOfTime = 0.01,
}: {
  frequencyGHz: number;
  polarization: LinearPolarization;
  distanceKm: number;
  rainRate001MmPerH: number;
  percentOfTime?: number;
}): number {
  requireWithin("distanceKm", distanceKm, 1e-6, 1e3);
  requireWithin("rainRate001MmPerH", rainRate001MmPerH, 0, 500);
  requireWithin("percentOfTime", percentOfTime, 0.001, 1);
  if (rainRate001MmPerH === 0) return 0;
  const { k, alpha } = rainCoefficients({ frequencyGHz, polarization });
  const specificDbPerKm = k * rainRate001MmPerH ** alpha;
  const denominator =
    0.477 * distanceKm ** 0.633 * rainRate001MmPerH ** (0.073 * alpha) * frequencyGHz ** 0.123 -
    10.579 * (1 - Math.exp(-0.024 * distanceKm));
  // The recommendation caps the reduction factor at 2.5; on very short hops the denominator nears 0.
  const reduction = denominator > 0.4 ? 1 / denominator : 2.5;
  const c0 = frequencyGHz >= 10 ? 0.12 + 0.4 * Math.log10((frequencyGHz / 10) ** 0.8) : 0.12;
  const c1 = 0.07 ** c0 * 0.12 ** (1 - c0);
  const c2 = 0.855 * c0 + 0.546 * (1 - c0);
  const c3 = 0.139 * c0 + 0.043 * (1 - c0);
  return specificDbPerKm * distanceKm * reduction * c1 * percentOfTime ** -(c2 + c3 * Math.log10(percentOfTime));
}
