import { proposeAccess, proposeBridge } from "#core/findings";
import { inverseGeodesic } from "#core/geodesy";
import { answerLink, isServed, weakestMarginDb, type LinkAnswer } from "#core/link";
import { linkEnds, withEdits, type Edit, type Link, type Site, type Subscriber, type World } from "#core/plan";
import { useMemo } from "react";
import { Button, figure, StateStroke, useFormats } from "../ui";
import { Link as NavLink } from "react-router";
import { useDesk } from "./DeskContext";
import { Photos } from "./Photos";
import { useProfiles, type Pair } from "./profiles";

/** Places compared at once; the nearest ones are taken. */
const MOST_OFFERS = 60;

interface Offer {
  key: string;
  name: string;
  distanceM: number;
  edits: Edit[] | null;
  link: Link | null;
  pair: Pair;
  answer: LinkAnswer | null;
}

function evaluate(world: World, edits: Edit[], profile: Parameters<typeof answerLink>[0]["profile"]): LinkAnswer {
  const tried = withEdits(world, edits);
  const link = edits.at(-1)!.row as Link;
  const { a, b } = linkEnds(tried, link);
  return answerLink({ plan: tried.plan, kind: link.kind, foliageDepthM: 0, a, b, profile });
}

/** Every place that could be linked with this one, tried with kit from the library, best first. */
function useOffers(place: Site | Subscriber, isSite: boolean, toSites: boolean): Offer[] {
  const { world, data } = useDesk();
  const bare = useMemo(() => {
    const makeId = () => crypto.randomUUID();
    const others = toSites ? [...world.sites.values()] : [...world.subscribers.values()];
    return others
      .filter((other) => other.id !== place.id)
      .map((other) => {
        const [from, to] = isSite ? [place, other] : [other, place];
        const edits =
          isSite && toSites
            ? proposeBridge(world, place as Site, other as Site, makeId)
            : proposeAccess(world, from as Site, to as Subscriber, makeId);
        return {
          key: other.id,
          name: other.name,
          distanceM: inverseGeodesic(from, to).distanceM,
          edits,
          link: edits ? (edits.at(-1)!.row as Link) : null,
          pair: [from, to] as Pair,
        };
      })
      .sort((x, y) => x.distanceM - y.distanceM)
      .slice(0, MOST_OFFERS);
  }, [place, isSite, toSites, world]);
  const profiles = useProfiles(
    data.rows.plan.id,
    data.terrain?.version ?? "none",
    bare.map(({ pair }) => pair),
  );
  const offers = bare.map((offer): Offer => {
    const profile = profiles.get(offer.pair);
    return { ...offer, answer: profile && offer.edits ? evaluate(world, offer.edits, profile) : null };
  });
  const worth = ({ answer }: Offer) =>
    answer
      ? (weakestMarginDb(answer) ?? -500) + (answer.state === "clear" ? 1000 : answer.state === "tight" ? 500 : 0)
      : -900;
  return offers.sort((x, y) => worth(y) - worth(x));
}

function Offers({
  place,
  isSite,
  toSites,
  title,
}: {
  place: Site | Subscriber;
  isSite: boolean;
  toSites: boolean;
  title: string;
}) {
  const { world, draft, select } = useDesk();
  const formats = useFormats();
  const offers = useOffers(place, isSite, toSites);
  if (offers.length === 0)
    return (
      <p className="px-3 py-2 text-xs text-quiet">
        {toSites ? "No sites yet. Import them first." : "No subscribers yet. Import them first."}
      </p>
    );
  return (
    <section className="px-3 py-2">
      <h3 className="mb-1 text-[13px] font-semibold">{title}</h3>
      <table className="w-full text-[13px]">
        <thead>
          <tr className="text-left text-xs text-quiet">
            <th className="font-normal">
              <span className="sr-only">State</span>
            </th>
            <th className="font-normal">Place</th>
            <th className="text-right font-normal">Path</th>
            <th className="text-right font-normal">Margin</th>
            <th>
              <span className="sr-only">Action</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {offers.map(({ key, name, distanceM, edits, link, answer }) => {
            const margin = answer && weakestMarginDb(answer);
            const served =
              answer &&
              link &&
              isServed(world.plan, (edits![0]!.row as { frequencyMHz?: number }).frequencyMHz ?? 5000, answer);
            return (
              <tr key={key} className="border-t border-rule">
                <td className="py-1 pr-1">
                  {answer ? <StateStroke state={answer.state} /> : <span className="text-xs text-quiet">…</span>}
                </td>
                <td className="max-w-28 truncate" title={name}>
                  {name}
                </td>
                <td className="figures text-right text-xs">{formats.distance(distanceM)}</td>
                <td className={`figures text-right text-xs ${served ? "font-semibold" : "text-quiet"}`}>
                  {margin === null ? "–" : `${figure(margin)} dB`}
                </td>
                <td className="py-0.5 text-right">
                  <Button
                    disabled={!edits}
                    className="px-1.5 py-0 text-xs"
                    aria-label={`Try a link with ${name}`}
                    title={edits ? undefined : "The library has no fitting kit"}
                    onClick={() => {
                      draft.put(edits!);
                      select({ kind: "link", id: link!.id });
                    }}
                  >
                    Try
                  </Button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}

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
      </section>
      <LinksHere place={site} />
      <Photos ownerKind="site" ownerId={site.id} />
      <Offers place={site} isSite toSites={false} title="Subscribers, as seen from here" />
      <Offers place={site} isSite toSites title="A bridge to another site" />
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
      </section>
      <LinksHere place={subscriber} />
      <Photos ownerKind="subscriber" ownerId={subscriber.id} />
      <Offers place={subscriber} isSite={false} toSites title="From which site?" />
    </div>
  );
}
