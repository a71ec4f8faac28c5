import { earthMm2Of } from "#core/bill";
import { endOf, radiosBySite, type LinkEnd } from "#core/plan";
import {
  CABLES,
  feedingSwitch,
  INJECTOR_WORDS,
  LONGEST_COPPER_M,
  powerChain,
  switchBudget,
  type PowerChain,
} from "#core/power";
import { counted } from "#core/words";
import { useMemo, useState } from "react";
import { ChooseButton } from "../../desk/ChooseButton";
import { useDesk } from "../../desk/DeskContext";
import { figure, Table } from "../../ui";
import { useLines } from "../../views/useRows";

interface Row {
  end: LinkEnd;
  chain: PowerChain;
}

const ROW_PX = 62;

/** Every radio's chain from its socket to the switch, those first that do not work. */
export function ChainsView() {
  const { world } = useDesk();
  const rows = useMemo(
    () =>
      [...world.radios.keys()]
        .map((id): Row => {
          const end = endOf(world, id);
          return { end, chain: powerChain(end, feedingSwitch(world, end.radio)) };
        })
        .sort(
          (x, y) =>
            Number(y.chain.isBroken) - Number(x.chain.isBroken) || x.end.placeName.localeCompare(y.end.placeName),
        ),
    [world],
  );
  const [page, setPage] = useState<HTMLElement | null>(null);
  const lines = useLines(page, rows.length, ROW_PX);
  if (rows.length === 0)
    return <p className="p-8 text-center text-sm text-quiet">No radio is planned yet, so there is nothing to feed.</p>;
  return (
    <div
      ref={setPage}
      className="h-full overflow-y-auto p-3 text-[13px]"
      tabIndex={0}
      role="region"
      aria-label="Chains of cable and power"
    >
      <p className="text-xs text-quiet">
        From the radio’s socket to the switch. Copper ends at {LONGEST_COPPER_M} m, both sides of the injector counted
        together. Volts: at the radio’s greatest load, with the cable at 50 °C. Before anybody touches a lead: power
        off, and mains work is for licensed electricians.
      </p>
      <SitesFed />
      <ul ref={lines.setStart} className="mt-2" style={{ paddingTop: lines.before, paddingBottom: lines.after }}>
        {lines.shown.map(({ index }) => {
          const row = rows[index]!;
          const { id } = row.end.radio;
          return (
            <li key={id} ref={lines.measure} data-index={index} data-chain={id} className="border-t border-rule py-1">
              <ChooseButton of={{ kind: "radio", id }}>
                <span className="font-semibold">{row.end.radio.name}</span>
                <span className="text-quiet"> · {row.end.placeName}</span>
              </ChooseButton>
              <Chain row={row} />
            </li>
          );
        })}
      </ul>
    </div>
  );
}

const LINK = "rounded border px-1.5 py-0.5 text-xs whitespace-nowrap";
const good = "border-rule";
const bad = "border-blocked font-semibold text-blocked";

function Chain({ row: { end, chain } }: { row: Row }) {
  const { radio, model } = end;
  const { copperM, tooLongM, isRight, voltsAtRadio, leastV, isStarved, isDry } = chain;
  const { isTurned, isBare, lacksArrester, jumperDb, jumperMissingDb, overW, mostW } = chain;
  const arresters = radio.arresters === 0 ? "no arrester" : counted(radio.arresters, "arrester");
  const cable = CABLES[radio.cableKind];
  return (
    <p className="mt-0.5 flex flex-wrap items-center gap-1">
      {radio.jumperM > 0 && (
        <>
          <span className={`${LINK} ${jumperMissingDb > 0 ? bad : good}`}>
            jumpers {figure(radio.jumperM)} m, {figure(jumperDb)} dB
            {jumperMissingDb > 0 && `, ${figure(radio.cableLossDb)} in the budget`}
          </span>
          <span aria-hidden="true">―</span>
        </>
      )}
      <span className={`${LINK} ${isDry ? bad : good}`}>
        {model.model}, {figure(model.loadW, 0)} W{isStarved && ": cannot be fed over this length"}
        {voltsAtRadio !== null && `: ${figure(voltsAtRadio)} V of at least ${figure(leastV!)}`}
      </span>
      <span aria-hidden="true">―</span>
      {copperM > 0 && radio.ethernetM > 0 && (
        <>
          <span className={`${LINK} ${lacksArrester ? bad : good}`}>{arresters}</span>
          <span aria-hidden="true">―</span>
        </>
      )}
      <span className={`${LINK} ${tooLongM > 0 || isBare ? bad : good}`}>
        {figure(radio.ethernetM, 0)} m of {cable.name}
        {isBare && ", which is not made for outdoors"}
        {tooLongM > 0 && `, ${figure(copperM, 0)} m in all: ${figure(tooLongM, 0)} too many`}
      </span>
      <span aria-hidden="true">―</span>
      <span className={`${LINK} ${isRight && !isTurned && overW === 0 ? good : bad}`}>
        {INJECTOR_WORDS[radio.injector].replace(/^an? /, "")}
        {isTurned && ", crossed: plus and minus change places"}
        {overW > 0 && `: ${figure(mostW! + overW)} W taken, ${figure(mostW!)} given`}
        {!isRight && `: it needs ${INJECTOR_WORDS[model.powerInput]}`}
      </span>
      <span aria-hidden="true">―</span>
      <span className={`${LINK} ${good}`}>{figure(radio.indoorM, 0)} m to the switch</span>
    </p>
  );
}

/** Each site's earth lead, and what its switch feeds. */
function SitesFed() {
  const { world } = useDesk();
  const rows = useMemo(() => {
    const bySite = radiosBySite(world);
    return [...world.sites.values()].flatMap((site) => {
      const radios = bySite.get(site.id) ?? [];
      if (radios.length === 0) return [];
      return [{ site, earthMm2: earthMm2Of(world, radios), budget: switchBudget(world, site, radios) }];
    });
  }, [world]);
  if (rows.length === 0) return null;
  return (
    <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label="Earth leads and switches">
      <Table
        caption="Earth leads and switches of the sites"
        columns={[
          { name: "Site" },
          { name: "Earth lead, at least", isNumber: true },
          { name: "Switch" },
          { name: "Radios on it", isNumber: true },
          { name: "They draw", isNumber: true },
          { name: "All starting at once", isNumber: true },
        ]}
      >
        {rows.map(({ site, earthMm2, budget }) => (
          <tr key={site.id} data-fed={site.id}>
            <td>
              <ChooseButton of={{ kind: "site", id: site.id }}>{site.name}</ChooseButton>
            </td>
            <td className={NUMBER}>{figure(earthMm2, 0)} mm²</td>
            <td>{budget ? budget.part.model : <span className="text-quiet">injectors</span>}</td>
            <td className={`${NUMBER} ${budget && budget.overPorts > 0 ? BAD : ""}`}>
              {budget ? `${budget.fed.length}${budget.part.ports === null ? "" : ` of ${budget.part.ports}`}` : "–"}
            </td>
            <td className={`${NUMBER} ${budget && budget.overW > 0 ? BAD : ""}`}>
              {budget
                ? `${figure(budget.loadW, 0)}${budget.part.watts === null ? "" : ` of ${figure(budget.part.watts, 0)}`} W`
                : "–"}
            </td>
            <td className={`${NUMBER} ${budget?.startsInTurn ? BAD : ""}`}>
              {budget ? `${figure(budget.startW, 0)} W` : "–"}
            </td>
          </tr>
        ))}
      </Table>
      <p className="text-xs text-quiet">
        The earth lead is the thickest that the kit at the site asks for; the local code may ask for more.
      </p>
    </div>
  );
}
const NUMBER = "figures text-right whitespace-nowrap";
const BAD = "font-semibold text-blocked";
