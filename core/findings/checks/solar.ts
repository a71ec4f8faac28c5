import { fedBySwitch, solarYear } from "../../power";
import { peopleBehindSite } from "../../outcome";
import { radiosBySite, setPatch, type Radio, type Site, type World } from "../../plan";
import { counted, figure, MONTHS } from "../../words";
import { mending } from "../kit/radios";
import type { Check, PlanFault } from "./check";

/** What a solar site lacks in its dullest month, or in days without sun; null where it holds. */
function lackOf(world: World, site: Site, radios?: readonly Radio[]) {
  if (site.power !== "solar") return null;
  const year = solarYear(world, site, radios);
  const { dailyLoadWh, dailyYieldWh, worstMonth, autonomyDays } = year;
  const shortWh = dailyLoadWh - dailyYieldWh[worstMonth]!;
  const { sunlessDays } = world.plan;
  if (autonomyDays === null || (shortWh <= 0 && autonomyDays >= sunlessDays)) return null;
  return {
    year,
    shortWh,
    what:
      site.panelW === 0
        ? `no panels are planned, ${figure(dailyLoadWh, 0)} Wh a day are drawn`
        : shortWh > 0
          ? `in ${MONTHS[worstMonth]!} the sun gives ${figure(dailyYieldWh[worstMonth]!, 0)} Wh a day, ${figure(dailyLoadWh, 0)} are drawn`
          : `the battery holds ${figure(autonomyDays)} days without sun, ${figure(sunlessDays, 0)} are wanted`,
  };
}

function solarFaults(world: World): PlanFault[] {
  const solar = [...world.sites.values()].filter(({ power }) => power === "solar");
  if (solar.length === 0) return [];
  const bySite = radiosBySite(world);
  return solar.flatMap((site): PlanFault[] => {
    const lack = lackOf(world, site, bySite.get(site.id) ?? []);
    if (!lack) return [];
    return [
      {
        about: [{ kind: "sites", id: site.id }],
        ...{ radioId: null, where: site.name, what: lack.what, cause: null, linkId: null },
        why: `${figure(lack.year.loadW)} W day and night, worked out from the latitude, the panel ${figure(lack.year.tiltDeg, 0)}° from level, an old battery in the cold. A battery that is emptied every winter lasts two.`,
        figure: lack.shortWh > 0 ? { value: lack.shortWh, unit: "Wh a day" } : null,
        people: peopleBehindSite(world, site.id),
      },
    ];
  });
}

export const solar: Check = {
  id: "solar",
  title: "Not enough sun",
  stage: "kit",
  ofPlan: solarFaults,
  remedies: (world, { about }) => {
    const site = world.sites.get(about?.[0]?.id ?? "");
    if (!site) return [];
    const { neededPanelW, neededBatteryAh } = solarYear(world, site);
    if (neededPanelW === null || neededBatteryAh === null) return [];
    const panelW = Math.max(site.panelW, neededPanelW);
    const batteryAh = Math.max(site.batteryAh, neededBatteryAh);
    const added = [
      ...(panelW > site.panelW ? [`panels of ${panelW} W instead of ${site.panelW}`] : []),
      ...(batteryAh > site.batteryAh ? [`a battery of ${batteryAh} Ah instead of ${site.batteryAh}`] : []),
    ];
    return mending(
      world,
      [
        {
          label: `Plan ${added.join(" and ")}`,
          effect: `holds through the dullest month and ${figure(world.plan.sunlessDays, 0)} days without sun`,
          patches: [setPatch("sites", site.id, { panelW, batteryAh })],
        },
      ],
      (then) => lackOf(then, then.sites.get(site.id)!) !== null,
    );
  },
};

/** Injectors of a site that lives on the sun which take mains, of radios that no switch on direct current feeds. */
function onMains(world: World, site: Site, radios: readonly Radio[]): Radio[] {
  if (site.power !== "solar") return [];
  const part = world.parts.get(site.switchPartId ?? "");
  const fed = new Set(part && part.volts !== null ? fedBySwitch(world, site, radios).map(({ id }) => id) : []);
  return radios.filter(({ id, injector }) => !fed.has(id) && injector !== "none" && injector !== "dc48");
}

export const mainsAtSolar: Check = {
  id: "mainsAtSolar",
  title: "No mains for injectors",
  stage: "kit",
  ofPlan: (world) => {
    const bySite = radiosBySite(world);
    return [...world.sites.values()].flatMap((site): PlanFault[] => {
      const radios = onMains(world, site, bySite.get(site.id) ?? []);
      if (radios.length === 0) return [];
      return [
        {
          about: [{ kind: "sites", id: site.id }],
          ...{ radioId: null, where: site.name, cause: null, linkId: null },
          what: `${counted(radios.length, "radio is", "radios are")} planned with injectors for the mains, and the site lives on the sun`,
          why: "An injector for the mains needs an inverter, which takes power day and night. A switch on direct current feeds radios from the battery.",
          figure: { value: radios.length, unit: "" },
          people: peopleBehindSite(world, site.id),
        },
      ];
    });
  },
  remedies: (world, { about }) => {
    const site = world.sites.get(about?.[0]?.id ?? "");
    if (!site) return [];
    const switches = [...world.parts.values()]
      .filter(({ kind, volts }) => kind === "switch" && volts !== null)
      .sort((x, y) => x.priceEur - y.priceEur);
    return mending(
      world,
      switches.map((part) => ({
        label: `Plan ${part.maker} ${part.model}`,
        effect: `${figure(part.watts ?? 0, 0)} W on ${part.ports ?? 0} sockets, from the battery`,
        patches: [setPatch("sites", site.id, { switchPartId: part.id })],
      })),
      (then) => {
        const after = then.sites.get(site.id)!;
        return onMains(then, after, radiosBySite(then).get(site.id) ?? []).length > 0;
      },
    );
  },
};
