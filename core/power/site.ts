import { radiosBySite, type Radio, type Site, type World } from "../plan";
import { convertersW } from "./rails";
import { solarBudget } from "./solar";
import { monthlySunHours, winterTiltDeg } from "./sun";

/**
 * What of a battery may be used, how much of what goes in comes out again, how much of its size is left when it is old, and in the cold
 * at which it is reckoned: lead at 0 °C and five years, lithium at 0 °C and ten.
 */
const BATTERIES: Readonly<
  Record<Site["batteryKind"], { depthOfDischarge: number; efficiency: number; leftWhenOld: number; leftInCold: number }>
> = {
  lead: { depthOfDischarge: 0.5, efficiency: 0.8, leftWhenOld: 0.8, leftInCold: 0.85 },
  lithium: { depthOfDischarge: 0.8, efficiency: 0.95, leftWhenOld: 0.8, leftInCold: 0.9 },
};
/** Of a panel's name-plate what is left of heat, dirt, age and its charge controller. */
const PANEL_DERATE = 0.75;

/** A solar site through the year. */
export interface SolarYear {
  /** Radios, what converters between the battery's voltage and theirs take, and the rest. */
  loadW: number;
  dailyLoadWh: number;
  /** Of each month, January first: peak sun hours on the panel and what it yields into the load, Wh a day. */
  sunHours: number[];
  dailyYieldWh: number[];
  worstMonth: number;
  /** Null where nothing draws from the battery. */
  autonomyDays: number | null;
  tiltDeg: number;
  /**
   * Panel that the worst month would need, and the battery for the days without sun, in whole steps of what is sold; null where no panel is
   * enough, since the sun does not rise in that month, and where the battery's voltage is not known.
   */
  neededPanelW: number | null;
  neededBatteryAh: number | null;
}

const PANEL_STEP_W = 50;
const BATTERY_STEP_AH = 50;

/** Watts that a site's radios and what else it feeds draw day and night, at their own sockets. */
export function siteLoadW(world: World, site: Site, radios: readonly Pick<Radio, "radioModelId">[]): number {
  return radios.reduce(
    (sum, { radioModelId }) => sum + (world.radioModels.get(radioModelId)?.loadW ?? 0),
    site.otherLoadW,
  );
}

/** The year of a site that lives on the sun, its panel facing the equator, tilted for the dull half of the year. */
export function solarYear(
  world: World,
  site: Site,
  radios: readonly Pick<Radio, "radioModelId">[] = radiosBySite(world).get(site.id) ?? [],
): SolarYear {
  const { sunlessDays } = world.plan;
  const loadW = siteLoadW(world, site, radios) + convertersW(world, site, radios);
  const { depthOfDischarge, efficiency, leftWhenOld, leftInCold } = BATTERIES[site.batteryKind];
  const tiltDeg = winterTiltDeg(site.latDeg);
  const sunHours = monthlySunHours(site.latDeg, tiltDeg, site.clearness);
  const usable = depthOfDischarge * leftWhenOld * leftInCold;
  const chargeEfficiency = PANEL_DERATE * efficiency;
  const months = sunHours.map((peakSunHours) =>
    solarBudget({
      ...{ loadW, panelW: site.panelW, peakSunHours, batteryV: site.batteryV, batteryAh: site.batteryAh },
      ...{ depthOfDischarge: usable, chargeEfficiency },
    }),
  );
  const least = Math.min(...sunHours);
  const { dailyLoadWh, autonomyDays } = months[0]!;
  const stepped = (value: number, step: number) => Math.ceil(value / step) * step;
  return {
    ...{ loadW, dailyLoadWh, autonomyDays, sunHours, tiltDeg },
    dailyYieldWh: months.map((month) => month.dailyYieldWh),
    worstMonth: sunHours.indexOf(least),
    neededPanelW:
      dailyLoadWh === 0 ? 0 : least > 0 ? stepped(dailyLoadWh / (least * chargeEfficiency), PANEL_STEP_W) : null,
    neededBatteryAh:
      dailyLoadWh === 0
        ? 0
        : site.batteryV > 0
          ? stepped((dailyLoadWh * sunlessDays) / (site.batteryV * usable), BATTERY_STEP_AH)
          : null,
  };
}
