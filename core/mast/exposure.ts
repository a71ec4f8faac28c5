/** How far in front of an antenna its power density falls to a limit, m: far field, S = EIRP ÷ 4πr². */
export function exposureDistanceM({ eirpDbm, limitWPerM2 }: { eirpDbm: number; limitWPerM2: number }): number {
  const watts = 10 ** (eirpDbm / 10) / 1000;
  return Math.sqrt(watts / (4 * Math.PI * limitWPerM2));
}
