import { hoursHeld, railsOf, siteLoadW, solarYear, type SolarYear } from "#core/power";
import { radiosBySite, type Site } from "#core/plan";
import { counted, MONTHS } from "#core/words";
import { useMemo, useState } from "react";
import { useDesk } from "../../desk/DeskContext";
import { Button, figure, SelectField, Term } from "../../ui";
import { YearChart } from "./YearChart";

/** Sites that live on the sun: what it gives them through the year, and how long their batteries hold. */
export function SunView() {
  const { world } = useDesk();
  const sites = useMemo(() => [...world.sites.values()].filter(({ power }) => power === "solar"), [world.sites]);
  const mains = useMemo(() => [...world.sites.values()].filter(({ power }) => power === "mains"), [world.sites]);
  if (sites.length + mains.length === 0)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        No site of this plan has power yet. A site’s power is chosen on its sheet.
      </p>
    );
  return (
    <div className="h-full space-y-4 overflow-y-auto p-3 text-[13px]">
      <p className="text-xs text-quiet">
        Radiation by latitude and month (Duffie and Beckman), a share of it by the usual clearness of the air there in
        that month, on a panel that faces the equator and is tilted 15° more than the latitude. Set a site’s own
        clearness where you have measured it: fog and hills differ from their latitude. Batteries are reckoned old and
        at 0 °C.
      </p>
      {sites.map((site) => (
        <SolarSite key={site.id} site={site} />
      ))}
      {mains.length > 0 && <MainsSites sites={mains} />}
    </div>
  );
}

/** Sites on the mains: how long what hangs there is held when the mains is away. */
function MainsSites({ sites }: { sites: readonly Site[] }) {
  const { world, select } = useDesk();
  const bySite = useMemo(() => radiosBySite(world), [world]);
  return (
    <section aria-label="Sites on the mains">
      <h2 className="font-semibold">On the mains</h2>
      <ul>
        {sites.map((site) => {
          const radios = bySite.get(site.id) ?? [];
          const hours = hoursHeld(world, site, radios);
          return (
            <li key={site.id} data-mains={site.id}>
              <button
                type="button"
                className="text-clay underline"
                onClick={() => select({ kind: "site", id: site.id })}
              >
                {site.name}
              </button>
              : {figure(siteLoadW(world, site, radios))} W.{" "}
              {hours === null
                ? "Dark when the mains is: no battery is planned behind it."
                : `Its battery of ${figure(site.upsWh, 0)} Wh holds them ${figure(hours)} hours, new and warm, over an inverter.`}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Voltages that a site's radios are made from, and which of them a converter makes. */
function Rails({ site }: { site: Site }) {
  const { world } = useDesk();
  const rails = railsOf(world, site, radiosBySite(world).get(site.id) ?? []);
  if (rails.length === 0) return null;
  return (
    <p className="text-quiet">
      {rails
        .map(
          ({ volts, radios, loadW, converterW }) =>
            `${figure(volts, 0)} V for ${counted(radios, "radio")}, ${figure(loadW, 0)} W${converterW > 0 ? ` and ${figure(converterW)} W in the converter from ${figure(site.batteryV, 0)} V` : " straight from the battery"}`,
        )
        .join("; ")}
      .
    </p>
  );
}

/** What one radio more would ask of a site that lives on the sun. */
function OneMore({ site }: { site: Site }) {
  const { world } = useDesk();
  const models = useMemo(() => {
    const used = new Map<string, number>();
    for (const { radioModelId } of world.radios.values()) used.set(radioModelId, (used.get(radioModelId) ?? 0) + 1);
    // A relay's next radio is most often a bridge's end, of the kind that the plan has most of.
    return [...world.radioModels.values()]
      .filter(({ use }) => use !== "subscriber")
      .sort(
        (x, y) =>
          Number(y.use === "bridge") - Number(x.use === "bridge") || (used.get(y.id) ?? 0) - (used.get(x.id) ?? 0),
      );
  }, [world.radios, world.radioModels]);
  const [chosen, setChosen] = useState("");
  const model = world.radioModels.get(chosen) ?? models[0];
  const radios = radiosBySite(world).get(site.id) ?? [];
  if (!model) return null;
  const year = solarYear(world, site, [...radios, { radioModelId: model.id }]);
  const { dailyLoadWh, dailyYieldWh, worstMonth, autonomyDays, loadW } = year;
  const givesWh = dailyYieldWh[worstMonth]!;
  return (
    <div className="mt-1 flex flex-wrap items-end gap-2" data-one-more={site.id}>
      <SelectField label="With one more" value={model.id} onChange={({ target }) => setChosen(target.value)}>
        {models.map(({ id, maker, model: name, loadW: watts }) => (
          <option key={id} value={id}>
            {maker} {name}, {figure(watts, 0)} W
          </option>
        ))}
      </SelectField>
      <p className="min-w-60 flex-1 pb-1">
        <span className={givesWh < dailyLoadWh ? "text-blocked" : ""}>
          {figure(loadW)} W draw {figure(dailyLoadWh, 0)} Wh a day, {MONTHS[worstMonth]} gives {figure(givesWh, 0)}
        </span>
        ;{" "}
        {autonomyDays !== null && (
          <span className={autonomyDays < world.plan.sunlessDays ? "text-blocked" : ""}>
            the battery holds {figure(autonomyDays)} days
          </span>
        )}
        . {enoughText(year, site)}
      </p>
    </div>
  );
}

/** What would be enough through the dullest month and the days without sun. */
function enoughText({ neededPanelW, neededBatteryAh, worstMonth }: SolarYear, site: Site): string {
  const battery =
    neededBatteryAh === null
      ? "a battery whose voltage is to be entered"
      : `a battery of ${figure(neededBatteryAh, 0)} Ah at ${figure(site.batteryV, 0)} V`;
  return neededPanelW === null
    ? `No panel is enough: in ${MONTHS[worstMonth]!} the sun does not rise here. Another source has to carry the site then, beside ${battery}.`
    : `Enough: panels of ${figure(neededPanelW, 0)} W and ${battery}.`;
}

function SolarSite({ site }: { site: Site }) {
  const { world, select } = useDesk();
  const year = useMemo(() => solarYear(world, site, radiosBySite(world).get(site.id) ?? []), [world, site]);
  const { worstMonth, dailyLoadWh, dailyYieldWh, sunHours, autonomyDays, tiltDeg, loadW } = year;
  const worstWh = dailyYieldWh[worstMonth]!;
  const { sunlessDays } = world.plan;
  const isUnknown = site.panelW === 0 && site.batteryAh === 0;
  return (
    <section aria-label={site.name} data-solar={site.id} className="rounded border border-rule bg-panel p-3">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="font-semibold">{site.name}</h2>
        <Button className="px-1.5 py-0 text-xs" onClick={() => select({ kind: "site", id: site.id })}>
          Change its kit
        </Button>
      </div>
      {isUnknown ? (
        <p className="mt-1">
          Its panels and battery are not known yet. {figure(loadW)} W are drawn day and night, the dullest month is{" "}
          {MONTHS[worstMonth]}, and the battery is to hold {figure(sunlessDays, 0)} days without sun.{" "}
          {enoughText(year, site)}
        </p>
      ) : (
        <>
          <p className={`mt-1 ${worstWh < dailyLoadWh ? "font-semibold text-blocked" : ""}`}>
            In {MONTHS[worstMonth]}, the dullest month, {figure(sunHours[worstMonth]!)}{" "}
            <Term meaning="Hours of full sun, 1000 W on each square metre, that would give the panel as much as the whole day does.">
              peak sun hours
            </Term>{" "}
            a day give {figure(worstWh, 0)} Wh; {figure(loadW)} W day and night draw {figure(dailyLoadWh, 0)}.
          </p>
          {autonomyDays === null ? (
            <p>Nothing draws from the battery yet.</p>
          ) : (
            <p className={autonomyDays < sunlessDays ? "font-semibold text-blocked" : ""}>
              The battery holds {figure(autonomyDays)} days without sun; {figure(sunlessDays, 0)} are wanted.
            </p>
          )}
          <p className="text-quiet">
            {figure(site.panelW, 0)} W of panels {figure(tiltDeg, 0)}° from level, {figure(site.batteryAh, 0)} Ah at{" "}
            {figure(site.batteryV, 0)} V, {site.batteryKind}. {enoughText(year, site)}
          </p>
          <Rails site={site} />
          <OneMore site={site} />
          <YearChart year={year} />
        </>
      )}
    </section>
  );
}
