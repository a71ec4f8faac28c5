import { mountsLeft, type Site } from "#core/plan";
import { Link } from "react-router";
import { useAdding } from "../adding/AddingContext";
import { Button } from "../ui";
import { useDesk } from "../desk/DeskContext";
import { FieldEdit, FieldsEdit, PlaceEdit } from "./fields";
import { LinksHere } from "./LinksHere";
import { Photos } from "./Photos";
import { DuplicateButton } from "./DuplicateButton";
import { RemoveButton } from "./RemoveButton";

/** What a solar site lives on. */
function SolarFields({ site }: { site: Site }) {
  const isListed = CLEARNESS.some(([value]) => value === site.clearness);
  const choices = isListed ? CLEARNESS : [...CLEARNESS, [site.clearness, String(site.clearness)] as const];
  return (
    <>
      <FieldsEdit kind="sites" row={site} fields={["panelW", "batteryAh", "batteryV", "batteryKind", "otherLoadW"]} />
      <FieldEdit kind="sites" row={site} field="clearness" choices={choices} />
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
  const own = { kind: "sites", row: site } as const;
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
          <FieldEdit {...own} field="name" />
          <PlaceEdit of={of} place={site} />
          <FieldsEdit {...own} fields={["structureKind", "structureHeightM", "poleDiameterMm", "power"]} />
          {site.power === "solar" && <SolarFields site={site} />}
          {site.power === "mains" && <FieldEdit {...own} field="upsWh" />}
          <FieldEdit {...own} field="switchPartId" choices={[[null, "none: injectors"] as const, ...switches]} />
          <FieldsEdit {...own} fields={["subnet", "gateway", "clientSubnet", "vlan"]} />
          {site.clientSubnet !== "" && <FieldEdit {...own} field="clientVlan" />}
          <FieldsEdit {...own} fields={["mastMomentNm", "ballastBaseM"]} />
          {site.ballastBaseM > 0 && <FieldEdit {...own} field="ballastFootM" />}
          <FieldsEdit {...own} fields={["freeMounts", "isFeed"]} />
          {site.isFeed && <FieldEdit {...own} field="feedMbps" />}
          <FieldsEdit {...own} fields={["access", "terms", "hazards", "notes"]} />
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
