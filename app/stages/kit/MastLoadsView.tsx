import { ballastKg, mastLoad, momentOverNm } from "#core/mast";
import { radiosBySite, type Site } from "#core/plan";
import { counted } from "#core/words";
import { useMemo } from "react";
import { ChooseButton } from "../../desk/ChooseButton";
import { useDesk } from "../../desk/DeskContext";
import { figure, Table } from "../../ui";

const NUMBER = "figures text-right whitespace-nowrap";
/** A distance to keep, rounded up. */
const away = (metres: number) => `${figure(Math.ceil(metres * 10) / 10)} m`;

/** What antennas put on each structure in the plan's gust, and how far people keep away from their fronts. */
export function MastLoadsView() {
  const { world, selection } = useDesk();
  const bySite = useMemo(() => radiosBySite(world), [world]);
  const chosen = selection?.kind === "radio" ? world.radios.get(selection.id)?.siteId : selection?.id;
  const sites = [...world.sites.values()]
    .filter(({ id }) => (bySite.get(id)?.length ?? 0) > 0)
    .sort((x, y) => Number(y.id === chosen) - Number(x.id === chosen) || x.name.localeCompare(y.name));
  if (sites.length === 0)
    return <p className="p-8 text-center text-sm text-quiet">Nothing hangs on any site of this plan yet.</p>;
  return (
    <div className="h-full space-y-4 overflow-y-auto p-3 text-[13px]">
      <p className="text-xs text-quiet">
        In a gust of {figure(world.plan.gustMPerS, 0)} m/s{" "}
        {world.plan.iceMm > 0 ? `with ${figure(world.plan.iceMm, 0)} mm of ice all round` : "without ice"} (the plan’s
        settings); areas are estimated from the antennas’ beams. Exposure: far field in front of the antenna, sending
        all the time at its set power, against ICNIRP 2020. These are figures, not a permission: the structure, its
        code, and those licensed for it decide, and so does your regulator for exposure.
      </p>
      {sites.map((site) => (
        <Structure key={site.id} site={site} />
      ))}
    </div>
  );
}

function Structure({ site }: { site: Site }) {
  const { world } = useDesk();
  const load = useMemo(() => mastLoad(world, radiosBySite(world).get(site.id) ?? []), [world, site]);
  const overNm = momentOverNm(site, load);
  const struts = load.antennas.filter((one) => one.struts > 0);
  return (
    <section aria-label={site.name} data-structure={site.id}>
      <h2 className="font-semibold">{site.name}</h2>
      <p className={overNm > 0 ? "font-semibold text-blocked" : ""}>
        {figure(load.forceN, 0)} N sideways and {figure(load.momentNm / 1000, 2)} kN·m at the foot
        {site.mastMomentNm > 0
          ? `, of ${figure(site.mastMomentNm / 1000, 2)} that the owner allows`
          : "; what the owner allows is not known"}
        . {figure(load.weightKg, 0)} kg of radios and antennas
        {load.iceKg > 0 && `, ${figure(load.iceKg, 0)} kg of ice on them`}.
      </p>
      {site.ballastBaseM > 0 && (
        <p>
          Its mount stands on a roof by its weight: {figure(ballastKg(site, load), 0)} kg of ballast besides radios and
          antennas keep it from tipping over the edge of its {figure(site.ballastBaseM)} m foot and from sliding, with
          half as much again. Whether the roof bears that is for whoever answers for it.
        </p>
      )}
      {struts.length > 0 && (
        <p>
          Side struts:{" "}
          {struts.map(({ radio, struts: count }) => `${counted(count, "strut")} for ${radio.name}`).join(", ")}, unless
          the maker says otherwise.
        </p>
      )}
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`Antennas at ${site.name}`}>
        <Table
          caption={`Loads at ${site.name}`}
          columns={[
            { name: "Radio" },
            { name: "Antenna" },
            { name: "Height", isNumber: true },
            { name: "Area", isNumber: true },
            { name: "Force", isNumber: true },
            { name: "Moment at the foot", isNumber: true },
            { name: "Keep away, public", isNumber: true },
            { name: "Keep away, workers", isNumber: true },
          ]}
        >
          {load.antennas.map(({ radio, antenna, areaM2, forceN, momentNm, publicM, workerM }) => (
            <tr key={radio.id}>
              <td>
                <ChooseButton of={{ kind: "radio", id: radio.id }}>{radio.name}</ChooseButton>
              </td>
              <td className="text-quiet">{antenna}</td>
              <td className={NUMBER}>{figure(radio.heightM, 0)} m</td>
              <td className={NUMBER}>{figure(areaM2, 2)} m²</td>
              <td className={NUMBER}>{figure(forceN, 0)} N</td>
              <td className={NUMBER}>{figure(momentNm, 0)} N·m</td>
              <td className={NUMBER}>{away(publicM)}</td>
              <td className={NUMBER}>{away(workerM)}</td>
            </tr>
          ))}
        </Table>
      </div>
    </section>
  );
}
