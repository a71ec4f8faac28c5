import { requireWithin } from "./bounds";

/** Shape function of the oxygen fit, P.676-10 annex 2 eq. 22h. */
function phi(rp: number, rt: number, a: number, b: number, c: number, d: number): number {
  return rp ** a * rt ** b * Math.exp(c * (1 - rp) + d * (1 - rt));
}

/** Oxygen, dB/km. P.676-10 annex 2, eqs. 22a–22t. */
function oxygenDbPerKm(f: number, rp: number, rt: number): number {
  if (f <= 54) {
    const xi1 = phi(rp, rt, 0.0717, -1.8132, 0.0156, -1.6515);
    const xi2 = phi(rp, rt, 0.5146, -4.6368, -0.1921, -5.7416);
    const xi3 = phi(rp, rt, 0.3414, -6.5851, 0.213, -8.5854);
    const shape =
      (7.2 * rt ** 2.8) / (f * f + 0.34 * rp * rp * rt ** 1.6) + (0.62 * xi3) / ((54 - f) ** (1.16 * xi1) + 0.83 * xi2);
    return shape * f * f * rp * rp * 1e-3;
  }
  const at54 = 2.192 * phi(rp, rt, 1.8286, -1.9487, 0.4051, -2.8509);
  const at58 = 12.59 * phi(rp, rt, 1.0045, 3.561, 0.1588, 1.2834);
  const at60 = 15 * phi(rp, rt, 0.9003, 4.1335, 0.0427, 1.6088);
  const at62 = 14.28 * phi(rp, rt, 0.9886, 3.4176, 0.1827, 1.3429);
  const at64 = 6.819 * phi(rp, rt, 1.432, 0.6258, 0.3177, -0.5914);
  const at66 = 1.908 * phi(rp, rt, 2.0717, -4.1404, 0.491, -4.8718);
  if (f <= 60) {
    return Math.exp(
      (Math.log(at54) / 24) * (f - 58) * (f - 60) -
        (Math.log(at58) / 8) * (f - 54) * (f - 60) +
        (Math.log(at60) / 12) * (f - 54) * (f - 58),
    );
  }
  if (f <= 62) return at60 + ((at62 - at60) * (f - 60)) / 2;
  if (f <= 66) {
    return Math.exp(
      (Math.log(at62) / 8) * (f - 64) * (f - 66) -
        (Math.log(at64) / 4) * (f - 62) * (f - 66) +
        (Math.log(at66) / 8) * (f - 62) * (f - 64),
    );
  }
  const xi4 = phi(rp, rt, -0.0112, 0.0092, -0.1033, -0.0009);
  const xi5 = phi(rp, rt, 0.2705, -2.7192, -0.3016, -4.1033);
  const xi6 = phi(rp, rt, 0.2445, -5.9191, 0.0422, -8.0719);
  const xi7 = phi(rp, rt, -0.1833, 6.5589, -0.2402, 6.131);
  const shape =
    3.02e-4 * rt ** 3.5 +
    (0.283 * rt ** 3.8) / ((f - 118.75) ** 2 + 2.91 * rp * rp * rt ** 1.6) +
    (0.502 * xi6 * (1 - 0.0163 * xi7 * (f - 66))) / ((f - 66) ** (1.4346 * xi4) + 1.15 * xi5);
  return shape * f * f * rp * rp * 1e-3;
}

/** Water vapour, dB/km. P.676-10 annex 2, eq. 23. */
function vapourDbPerKm(f: number, rp: number, rt: number, rho: number): number {
  const eta1 = 0.955 * rp * rt ** 0.68 + 0.006 * rho;
  const eta2 = 0.735 * rp * rt ** 0.5 + 0.0353 * rt ** 4 * rho;
  const wing = (fi: number) => 1 + ((f - fi) / (f + fi)) ** 2;
  const cool = (factor: number) => Math.exp(factor * (1 - rt));
  const lines =
    ((3.98 * eta1 * cool(2.23)) / ((f - 22.235) ** 2 + 9.42 * eta1 ** 2)) * wing(22) +
    (11.96 * eta1 * cool(0.7)) / ((f - 183.31) ** 2 + 11.14 * eta1 ** 2) +
    (0.081 * eta1 * cool(6.44)) / ((f - 321.226) ** 2 + 6.29 * eta1 ** 2) +
    (3.66 * eta1 * cool(1.6)) / ((f - 325.153) ** 2 + 9.22 * eta1 ** 2) +
    (25.37 * eta1 * cool(1.09)) / (f - 380) ** 2 +
    (17.4 * eta1 * cool(1.46)) / (f - 448) ** 2 +
    ((844.6 * eta1 * cool(0.17)) / (f - 557) ** 2) * wing(557) +
    ((290 * eta1 * cool(0.41)) / (f - 752) ** 2) * wing(752) +
    ((8.3328e4 * eta2 * cool(0.99)) / (f - 1780) ** 2) * wing(1780);
  return lines * f * f * rt ** 2.5 * rho * 1e-4;
}

/**
 * Specific attenuation by dry air and by water vapour, dB/km, 1 to 120 GHz, near the ground.
 * Source: ITU-R P.676-10 annex 2 (the approximate method).
 */
export function gasAttenuation({
  frequencyGHz,
  pressureHpa = 1013.25,
  temperatureC = 15,
  vapourGPerM3 = 7.5,
}: {
  frequencyGHz: number;
  pressureHpa?: number;
  temperatureC?: number;
  vapourGPerM3?: number;
}): { oxygenDbPerKm: number; vapourDbPerKm: number } {
  requireWithin("frequencyGHz", frequencyGHz, 0.03, 120);
  requireWithin("pressureHpa", pressureHpa, 300, 1100);
  requireWithin("temperatureC", temperatureC, -60, 60);
  requireWithin("vapourGPerM3", vapourGPerM3, 0, 60);
  const rp = pressureHpa / 1013;
  const rt = 288 / (273 + temperatureC);
  return {
    oxygenDbPerKm: oxygenDbPerKm(frequencyGHz, rp, rt),
    vapourDbPerKm: vapourDbPerKm(frequencyGHz, rp, rt, vapourGPerM3),
  };
}
