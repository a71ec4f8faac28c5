import { BATTERY_KINDS, mountsLeft, SITE_POWERS, type Site } from "#core/plan";
import { Link } from "react-router";
import { useAdding } from "../adding/AddingContext";
import { Button } from "../ui";
import { useDesk } from "./DeskContext";
import { ChoiceEdit, FigureEdit, PlaceEdit, TextEdit } from "./fields";
import { LinksHere } from "./LinksHere";
import { Photos } from "./Photos";
import { DuplicateButton } from "./DuplicateButton";
import { RemoveButton } from "./RemoveButton";

const YES_NO = [
  [false, "no"],
  [true, "yes"],
] as const;

/** What a solar site lives on. */
function SolarFields({ site }: { site: Site }) {
  const of = { kind: "sites", id: site.id } as const;
  const isListed = CLEARNESS.some(([value]) => value === site.clearness);
  const choices = isListed ? CLEARNESS : [...CLEARNESS, [site.clearness, String(site.clearness)] as const];
  return (
    <>
      <FigureEdit of={of} field="panelW" label="Panels" unit="W" step={50} max={100_000} value={site.panelW} />
      <FigureEdit of={of} field="batteryAh" label="Battery" unit="Ah" step={50} max={100_000} value={site.batteryAh} />
      <FigureEdit
        of={of}
        field="batteryV"
        label="Battery’s voltage"
        unit="V"
        step={12}
        max={1000}
        value={site.batteryV}
      />
      <ChoiceEdit
        of={of}
        field="batteryKind"
        label="Battery’s kind"
        value={site.batteryKind}
        choices={BATTERY_KINDS.map((one) => [one, one] as const)}
      />
      <FigureEdit
        of={of}
        field="otherLoadW"
        label="Feeds besides radios"
        unit="W"
        max={100_000}
        value={site.otherLoadW}
      />
      <ChoiceEdit of={of} field="clearness" label="Clearness of the air" value={site.clearness} choices={choices} />
    </>
  );
}
/** The networks of a site by role. */
function NetworkFields({ site }: { site: Site }) {
  const of = { kind: "sites", id: site.id } as const;
  return (
    <>
      <TextEdit of={of} field="subnet" label="Network" value={site.subnet} most={64} />
      <TextEdit of={of} field="gateway" label="Gateway" value={site.gateway} most={64} />
      <TextEdit
        of={of}
        field="clientSubnet"
        label="Customers’ own network (empty: the same)"
        value={site.clientSubnet}
        most={64}
      />
      <FigureEdit of={of} field="vlan" label="VLAN (0: untagged)" max={4094} value={site.vlan} />
      {site.clientSubnet !== "" && (
        <FigureEdit of={of} field="clientVlan" label="Customers’ VLAN" max={4094} value={site.clientVlan} />
      )}
    </>
  );
}

/** How much of the sun's radiation comes through. */
const CLEARNESS = [
  [null, "usual by latitude and month"],
  [0.3, "dull, 0.30"],
  [0.35, "often dull, 0.35"],
  [0.4, "rather dull, 0.40"],
  [0.5, "rather clear, 0.50"],
  [0.6, "clear, 0.60"],
] as const;

/** A site: every field where it stands, its radios, links and photographs. */
export function SiteSheet({ site }: { site: Site }) {
  const { world, select } = useDesk();
  const { start } = useAdding();
  const of = { kind: "sites", id: site.id } as const;
  const radios = [...world.radios.values()].filter((radio) => radio.siteId === site.id);
  const left = mountsLeft(world, site);
  const switches = [...world.parts.values()]
    .filter(({ kind }) => kind === "switch")
    .map(({ id, model }) => [id, model] as const);
  return (
    <div className="divide-y divide-rule">
      <section className="px-3 py-2" aria-label={site.name}>
        <h2 className="font-semibold">{site.name}</h2>
        {site.hazards && (
          <p className="mt-1 text-[13px] font-medium text-blocked">⚠ Hazards named here: {site.hazards}</p>
        )}
        <div className="mt-1 grid grid-cols-2 gap-2">
          <TextEdit of={of} field="name" label="Name" value={site.name} isRequired most={120} />
          <PlaceEdit of={of} place={site} />
          <TextEdit of={of} field="structureKind" label="Structure" value={site.structureKind} most={60} />
          <FigureEdit
            of={of}
            field="structureHeightM"
            label="Height"
            unit="m"
            step={0.5}
            decimals={1}
            max={500}
            value={site.structureHeightM}
          />
          <FigureEdit
            of={of}
            field="poleDiameterMm"
            label="Pole"
            unit="mm"
            min={10}
            max={2000}
            value={site.poleDiameterMm}
          />
          <ChoiceEdit
            of={of}
            field="power"
            label="Power"
            value={site.power}
            choices={SITE_POWERS.map((one) => [one, one] as const)}
          />
          {site.power === "solar" && <SolarFields site={site} />}
          {site.power === "mains" && (
            <FigureEdit
              of={of}
              field="upsWh"
              label="Battery behind the mains (0: none)"
              unit="Wh"
              step={100}
              max={1_000_000}
              value={site.upsWh}
            />
          )}
          <ChoiceEdit
            of={of}
            field="switchPartId"
            label="Switch that feeds radios"
            value={site.switchPartId}
            choices={[[null, "none: injectors"] as const, ...switches]}
          />
          <NetworkFields site={site} />
          <FigureEdit
            of={of}
            field="mastMomentNm"
            label="Owner allows (0: unknown)"
            unit="N·m"
            step={100}
            max={10_000_000}
            value={site.mastMomentNm}
          />
          <FigureEdit
            of={of}
            field="ballastBaseM"
            label="Foot of a ballasted mount (0: bolted)"
            unit="m"
            step={0.1}
            decimals={1}
            max={20}
            value={site.ballastBaseM}
          />
          {site.ballastBaseM > 0 && (
            <FigureEdit
              of={of}
              field="ballastFootM"
              label="Its roof above ground"
              unit="m"
              step={0.5}
              decimals={1}
              max={500}
              value={site.ballastFootM}
            />
          )}
          <FigureEdit of={of} field="freeMounts" label="Mounts for radios" max={99} value={site.freeMounts} />
          <ChoiceEdit of={of} field="isFeed" label="Feed" value={site.isFeed} choices={YES_NO} />
          {site.isFeed && (
            <FigureEdit
              of={of}
              field="feedMbps"
              label="Feed carries (0: unknown)"
              unit="Mbit/s"
              step={10}
              max={1_000_000}
              value={site.feedMbps}
            />
          )}
          <TextEdit of={of} field="access" label="Access" value={site.access} most={1000} />
          <TextEdit of={of} field="terms" label="Owner’s terms" value={site.terms} most={1000} />
          <TextEdit of={of} field="hazards" label="Hazards" value={site.hazards} rows={2} most={1000} />
          <TextEdit of={of} field="notes" label="Notes" value={site.notes} rows={2} most={4000} />
        </div>
        <p className={`mt-1 text-xs ${left < 0 ? "font-medium text-blocked" : "text-quiet"}`}>
          {left >= 0
            ? `${left} of ${site.freeMounts} mounts left with the radios planned here.`
            : `${-left} mounts short: ${radios.length} radios are planned here.`}
        </p>
        <div className="mt-1.5 flex flex-wrap gap-1.5">
          <Button className="text-xs" onClick={() => start("sector", site.id)}>
            Add a sector
          </Button>
          <Button className="text-xs" onClick={() => start("bridge", site.id)}>
            Add a bridge
          </Button>
          <DuplicateButton place={{ kind: "site", row: site }} />
          <RemoveButton thing={{ kind: "sites", id: site.id }} name={site.name} />
        </div>
        <Link
          to={`/plans/${world.plan.id}/register?kind=sites`}
          className="mt-1 inline-block text-xs text-clay underline"
        >
          All sites in the register
        </Link>
      </section>
      {radios.length > 0 && (
        <section className="px-3 py-2">
          <h3 className="mb-1 text-[13px] font-semibold">Radios here</h3>
          <ul>
            {radios.map((radio) => (
              <li key={radio.id}>
                <button
                  type="button"
                  onClick={() => select({ kind: "radio", id: radio.id })}
                  className="flex w-full items-baseline justify-between gap-2 py-0.5 text-left text-[13px] hover:text-clay"
                >
                  {radio.name}
                  <span className="figures text-xs text-quiet">{radio.frequencyMHz} MHz</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      <LinksHere place={site} />
      <Photos ownerKind="site" ownerId={site.id} />
    </div>
  );
}
