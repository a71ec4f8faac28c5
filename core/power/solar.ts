const HOURS_PER_DAY = 24;

/** A solar site's balance of one day, and how long its battery holds without sun: Wh and days. */
export function solarBudget({
  loadW,
  panelW,
  peakSunHours,
  batteryV,
  batteryAh,
  depthOfDischarge,
  chargeEfficiency,
}: {
  loadW: number;
  panelW: number;
  peakSunHours: number;
  batteryV: number;
  batteryAh: number;
  depthOfDischarge: number;
  chargeEfficiency: number;
}): { dailyLoadWh: number; dailyYieldWh: number; autonomyDays: number } {
  const dailyLoadWh = loadW * HOURS_PER_DAY;
  return {
    dailyLoadWh,
    dailyYieldWh: panelW * peakSunHours * chargeEfficiency,
    autonomyDays: (batteryV * batteryAh * depthOfDischarge) / dailyLoadWh,
  };
}
