import { backhaulOf, type Backhaul, type BackhaulHop } from "#core/capacity";
import type { HopWay } from "#core/expansion";
import { counted } from "#core/words";
import { useMemo } from "react";
import { Asked } from "../../ask/Asked";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { figure, Table } from "../../ui";
import { Ways } from "./Ways";
import { busyWords, fullWhen, percent } from "./words";

const NUMBER = "figures text-right whitespace-nowrap";

/** The bridges from each feed outward: what is asked of each hop, what it keeps, and what would relieve it. */
export function BackhaulView() {
  const { world, summaries, selection, select } = useDesk();
  const tree = useMemo(() => backhaulOf(world, summaries), [world, summaries]);
  const { oversubscription, availabilityPercent, growthPercent } = world.plan;
  const siteName = (id: string) => world.sites.get(id)?.name ?? "";
  const bridgeName = (id: string) => {
    const link = world.links.get(id)!;
    return [link.aRadioId, link.bRadioId].map((end) => siteName(world.radios.get(end)?.siteId ?? "")).join(" – ");
  };
  if (tree.feeds.length === 0)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        No site of the plan is a feed. Choose the site where traffic leaves and say so in its sheet, with what it
        carries.
      </p>
    );
  const fullest = tree.hops.reduce<BackhaulHop | null>(
    (worst, hop) => (worst && worst.load >= hop.load ? worst : hop),
    null,
  );
  const shown = tree.hops.find(({ linkId }) => selection?.kind === "link" && linkId === selection.id) ?? fullest;
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <p className="text-xs text-quiet">
        {busyWords(oversubscription)} Each hop is held against the rate that it keeps {availabilityPercent} % of the
        year. “Outward” is away from the feed.
      </p>
      {tree.feeds.map((feed) => (
        <section key={feed.siteId} className="mt-3" aria-label={`Feed at ${siteName(feed.siteId)}`}>
          <h3 className="font-semibold">
            Feed: {siteName(feed.siteId)}{" "}
            <span className="font-normal text-quiet">
              {figure(feed.demandDownMbps, 0)}/{figure(feed.demandUpMbps, 0)} Mbit/s asked for;{" "}
              {feed.load === null
                ? "nobody said what it carries"
                : `it carries ${figure(feed.feedMbps, 0)}: ${percent(feed.load)} ${growthPercent > 0 ? `, ${fullWhen(feed.load, growthPercent)}` : ""}`}
            </span>
          </h3>
          <HopTable
            tree={tree}
            feedId={feed.siteId}
            shown={shown}
            siteName={siteName}
            onChoose={(id) => select({ kind: "link", id })}
          />
        </section>
      ))}
      {tree.unreached.length > 0 && (
        <p className="mt-3 text-blocked" data-unreached>
          No bridge that carries anything reaches {tree.unreached.map(siteName).join(", ")}.
        </p>
      )}
      {tree.spare.length > 0 && (
        <p className="mt-3 text-tight">
          {counted(tree.spare.length, "bridge")} closes a ring and stands by: {tree.spare.map(bridgeName).join("; ")}.
          One of the two ways must be blocked by protocol or routed.
        </p>
      )}
      {shown && (
        <HopWays key={shown.linkId} hop={shown} name={`${siteName(shown.fromSiteId)} – ${siteName(shown.toSiteId)}`} />
      )}
    </div>
  );
}

function HopTable({
  tree,
  feedId,
  shown,
  siteName,
  onChoose,
}: {
  tree: Backhaul;
  feedId: string;
  shown: BackhaulHop | null;
  siteName: (id: string) => string;
  onChoose: (linkId: string) => void;
}) {
  const { world } = useDesk();
  const { growthPercent } = world.plan;
  const ways = new Map(tree.sites.filter((site) => site.feedId === feedId).map((site) => [site.siteId, site]));
  const hops = branchesFirst(
    tree.hops.filter(({ toSiteId }) => ways.has(toSiteId)),
    feedId,
  );
  if (hops.length === 0) return <p className="text-quiet">No bridge hangs on it.</p>;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`Hops from ${siteName(feedId)}`}>
      <Table
        caption={`Hops from ${siteName(feedId)}`}
        columns={[
          { name: "To" },
          { name: "Asked for out/in", isNumber: true },
          { name: "Kept out/in", isNumber: true },
          { name: "Used", isNumber: true },
          { name: "Behind it", isNumber: true },
          { name: "Narrowest on its way" },
          ...(growthPercent > 0 ? [{ name: "Growth" }] : []),
        ]}
      >
        {hops.map((hop) => {
          const { way, narrowest } = ways.get(hop.toSiteId)!;
          const narrow = tree.hops.find(({ linkId }) => linkId === narrowest)!;
          return (
            <tr key={hop.linkId} data-hop={hop.linkId} className={hop === shown ? "bg-panel font-semibold" : ""}>
              <td>
                <span style={{ paddingLeft: `${(way.length - 1) * 1.25}rem` }}>
                  <button type="button" className="text-left text-clay underline" onClick={() => onChoose(hop.linkId)}>
                    {siteName(hop.toSiteId)}
                  </button>
                </span>
                {hop.fromSiteId !== feedId && (
                  <span className="ml-1 text-xs font-normal text-quiet">from {siteName(hop.fromSiteId)}</span>
                )}
              </td>
              <td className={NUMBER}>
                {figure(hop.demandDownMbps, 0)}/{figure(hop.demandUpMbps, 0)}
              </td>
              <td className={NUMBER}>
                {hop.isFairWeather ? "at most " : ""}
                {figure(hop.downMbps, 0)}/{figure(hop.upMbps, 0)}
              </td>
              <td className={`${NUMBER} ${hop.load > 1 ? "text-blocked" : ""}`}>{percent(hop.load)}</td>
              <td className={NUMBER}>
                {counted(hop.customers, "customer")}, {counted(hop.people, "person", "people")}
              </td>
              <td>{narrow === hop ? "itself" : `${siteName(narrow.fromSiteId)} – ${siteName(narrow.toSiteId)}`}</td>
              {growthPercent > 0 && <td className="whitespace-nowrap">{fullWhen(hop.load, growthPercent)}</td>}
            </tr>
          );
        })}
      </Table>
    </div>
  );
}

/** Hops in the order of a tree: each right below the one that feeds it. */
function branchesFirst(hops: readonly BackhaulHop[], fromSiteId: string): BackhaulHop[] {
  return hops
    .filter((hop) => hop.fromSiteId === fromSiteId)
    .flatMap((hop) => [hop, ...branchesFirst(hops, hop.toSiteId)]);
}

/** What would relieve a hop. */
function HopWays({ hop, name }: { hop: BackhaulHop; name: string }) {
  const { data, draft } = useDesk();
  const view = useView<HopWay>(data.world.plan.id, draft.patches, { kind: "hopWays", linkId: hop.linkId });
  return (
    <section className="mt-4" aria-label={`Wider for ${name}`}>
      <h3 className="font-semibold">What would widen {name}</h3>
      <p className="text-xs text-quiet">
        Each answered in full and put into the tree: wider channels with the kit that is planned, the best use of every
        band, a bridge from another site instead. Smallest change first.
      </p>
      <Asked
        view={view}
        waiting="Trying widths, bands and other ways…"
        none="Nothing in the library does better over this path."
      >
        {(ways) => <Ways label="Ways to widen it" ways={ways} onTake={(patches) => draft.put([...patches])} />}
      </Asked>
    </section>
  );
}
