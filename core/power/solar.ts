const HOURS_PER_DAY = 24;

/** A solar site's balance of one day, and how long its battery holds without sun, Wh and days: null where nothing draws from it. */
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
}): { dailyLoadWh: number; dailyYieldWh: number; autonomyDays: number | null } {
  const dailyLoadWh = loadW * HOURS_PER_DAY;
  return {
    dailyLoadWh,
    dailyYieldWh: panelW * peakSunHours * chargeEfficiency,
    autonomyDays: dailyLoadWh > 0 ? (batteryV * batteryAh * depthOfDischarge) / dailyLoadWh : null,
  };
}
