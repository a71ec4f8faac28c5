import { linkEnds, type Site, type Subscriber } from "#core/plan";
import { StateStroke, useFormats } from "../ui";
import { Link as NavLink } from "react-router";
import { useDesk } from "./DeskContext";
import { Photos } from "./Photos";
import { RemoveButton } from "./RemoveButton";

function Facts({ rows }: { rows: [string, string][] }) {
  return (
    <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3 text-[13px]">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-quiet">{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

function LinksHere({ place }: { place: Site | Subscriber }) {
  const { world, summaries, select } = useDesk();
  const here = [...world.links.values()].filter((link) => {
    const { a, b } = linkEnds(world, link);
    return a.place === place || b.place === place;
  });
  if (here.length === 0) return null;
  return (
    <section className="px-3 py-2">
      <h3 className="mb-1 text-[13px] font-semibold">Links here</h3>
      <ul>
        {here.map((link) => {
          const { a, b } = linkEnds(world, link);
          const other = a.place === place ? b : a;
          return (
            <li key={link.id}>
              <button
                type="button"
                onClick={() => select({ kind: "link", id: link.id })}
                className="flex w-full items-center gap-2 py-0.5 text-left text-[13px] hover:text-clay"
              >
                <StateStroke state={summaries.get(link.id)?.state ?? "unknown"} />
                {other.placeName}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Facts in words, without those that nobody has written. */
function wordRows(rows: [string, string][]): [string, string][] {
  return rows.filter(([, value]) => value !== "");
}

function RegisterLink({ kind }: { kind: "sites" | "subscribers" }) {
  const { world } = useDesk();
  return (
    <NavLink
      to={`/plans/${world.plan.id}/register?kind=${kind}`}
      className="mt-1 inline-block text-xs text-clay underline"
    >
      Change these in the register
    </NavLink>
  );
}

export function SiteSheet({ site }: { site: Site }) {
  const formats = useFormats();
  const { world } = useDesk();
  const radios = [...world.radios.values()].filter((radio) => radio.siteId === site.id);
  return (
    <div className="divide-y divide-rule">
      <section className="px-3 py-2">
        <h2 className="font-semibold">{site.name}</h2>
        <Facts
          rows={[
            ["Structure", `${site.structureKind}, ${formats.height(site.structureHeightM)}`],
            ["Pole", `${site.poleDiameterMm} mm`],
            ["Power", site.power],
            ["Free mounts", String(site.freeMounts)],
            ["Feed", site.isFeed ? (site.feedMbps > 0 ? `${site.feedMbps} Mbit/s` : "yes") : "no"],
            ...wordRows([
              ["Access", site.access],
              ["Terms", site.terms],
            ]),
            ["Place", formats.place(site)],
            ["Radios", radios.length === 0 ? "none" : radios.map((radio) => radio.name).join(", ")],
          ]}
        />
        {site.hazards && (
          <p className="mt-1 text-[13px] font-medium text-blocked">⚠ Hazards named here: {site.hazards}</p>
        )}
        {site.notes && <p className="mt-1 text-xs text-quiet">{site.notes}</p>}
        <RegisterLink kind="sites" />
        <div className="mt-1.5">
          <RemoveButton thing={{ kind: "sites", id: site.id }} name={site.name} />
        </div>
      </section>
      <LinksHere place={site} />
      <Photos ownerKind="site" ownerId={site.id} />
    </div>
  );
}

export function SubscriberSheet({ subscriber }: { subscriber: Subscriber }) {
  const formats = useFormats();
  return (
    <div className="divide-y divide-rule">
      <section className="px-3 py-2">
        <h2 className="font-semibold">{subscriber.name}</h2>
        <Facts
          rows={[
            [
              "Mount",
              `${subscriber.mount}, ${formats.height(subscriber.antennaHeightM)} (to ${formats.height(subscriber.maxHeightM)})`,
            ],
            ["Status", subscriber.status],
            [
              "Needs",
              `${subscriber.demandMbps} / ${subscriber.demandUpMbps} Mbit/s${subscriber.tier ? ` (${subscriber.tier})` : ""} for ${subscriber.people} people`,
            ],
            ...(subscriber.behind === "none"
              ? []
              : [["Behind", `${subscriber.behind.replace("_", " ")} wall or glass`] as [string, string]]),
            ["Place", formats.place(subscriber)],
          ]}
        />
        {subscriber.notes && <p className="mt-1 text-xs text-quiet">{subscriber.notes}</p>}
        <RegisterLink kind="subscribers" />
        <div className="mt-1.5">
          <RemoveButton thing={{ kind: "subscribers", id: subscriber.id }} name={subscriber.name} />
        </div>
      </section>
      <LinksHere place={subscriber} />
      <Photos ownerKind="subscriber" ownerId={subscriber.id} />
    </div>
  );
}
