import { useVirtualizer } from "@tanstack/react-virtual";
import { sectorAirtime } from "#core/capacity";
import type { Link as PlanLink } from "#core/plan";
import { useMemo, useRef, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { AddMenu } from "../adding/AddMenu";
import { figure, ProofMark, SiteGlyph, StateStroke, SubscriberGlyph } from "../ui";
import { useDesk, type Desk } from "../desk/DeskContext";
import { linkedSubscribers } from "../desk/mapPlaces";
import { FindingCard, isChosen } from "./FindingsList";
import { placeNameOf } from "../desk/names";
import { selectionText, type Selection } from "../desk/selection";
import type { StageManifest } from "../views/manifest";

interface ListRow {
  key: string;
  pick: NonNullable<Selection>;
  name: string;
  note: string;
  glyph: ReactNode;
  tail: ReactNode;
  /** For sorting by need: the lower, the more pressing. */
  rank: number;
}

/** What is listed. */
type Shown = Pick<Desk, "world" | "summaries" | "stateOf">;

function surveyRows({ world }: Shown): ListRow[] {
  const linked = linkedSubscribers(world);
  const sites = [...world.sites.values()].map((site): ListRow => ({
    key: `site:${site.id}`,
    pick: { kind: "site", id: site.id },
    name: site.name,
    note: `${site.structureKind}, ${site.structureHeightM} m${site.isFeed ? " · feed" : ""}`,
    glyph: <SiteGlyph />,
    tail: null,
    rank: 0,
  }));
  const subscribers = [...world.subscribers.values()].map((subscriber): ListRow => ({
    key: `subscriber:${subscriber.id}`,
    pick: { kind: "subscriber", id: subscriber.id },
    name: subscriber.name,
    note: `${subscriber.status} · ${linked.has(subscriber.id) ? "linked" : "not linked yet"}`,
    glyph: <SubscriberGlyph linked={linked.has(subscriber.id)} />,
    tail: <span className="figures text-xs text-quiet">{subscriber.demandMbps} Mbit/s</span>,
    rank: linked.has(subscriber.id) ? 2 : 1,
  }));
  return [...sites, ...subscribers];
}

function sectorRows({ world, summaries }: Shown): ListRow[] {
  const bySector = new Map<string, { links: PlanLink[]; served: number }>();
  for (const link of world.links.values()) {
    if (link.kind !== "access") continue;
    const own = bySector.get(link.aRadioId) ?? { links: [], served: 0 };
    own.links.push(link);
    if (summaries.get(link.id)?.served) own.served++;
    bySector.set(link.aRadioId, own);
  }
  return [...world.radios.values()]
    .filter(({ role }) => role === "sector")
    .map((radio): ListRow => {
      const { links, served } = bySector.get(radio.id) ?? { links: [], served: 0 };
      const { down, up } = sectorAirtime(world, links, summaries);
      const busy = Math.max(down, up);
      const heading = radio.azimuthDeg === null ? "all round" : `${radio.azimuthDeg}°`;
      return {
        key: `radio:${radio.id}`,
        pick: { kind: "radio", id: radio.id },
        name: radio.name,
        note: `${placeNameOf(world, radio.id)} · ${heading} · ${radio.frequencyMHz} MHz`,
        glyph: <SiteGlyph />,
        tail: (
          <span className="text-right">
            <span className="figures block text-xs" title="Customers served of those linked">
              {served}/{links.length}
            </span>
            <span className="figures block text-xs text-quiet" title="Airtime asked for, the busier direction">
              {figure(busy * 100, 0)} %
            </span>
          </span>
        ),
        rank: -busy,
      };
    });
}

function linkRows({ world, summaries, stateOf }: Shown): ListRow[] {
  return [...world.links.values()].map((link) => {
    const summary = summaries.get(link.id);
    const margin = summary?.marginLeftDb ?? null;
    return {
      key: `link:${link.id}`,
      pick: { kind: "link", id: link.id },
      name:
        link.kind === "bridge"
          ? `${placeNameOf(world, link.aRadioId)} – ${placeNameOf(world, link.bRadioId)}`
          : placeNameOf(world, link.bRadioId),
      note: link.kind === "bridge" ? "bridge" : `from ${placeNameOf(world, link.aRadioId)}`,
      glyph: <StateStroke state={summary?.state ?? "unknown"} />,
      tail: (
        <span className="text-right">
          <span className="figures block text-xs">{margin === null ? "–" : `${figure(margin)} dB`}</span>
          {stateOf(link.id) !== "planned" && <ProofMark state={stateOf(link.id)} />}
        </span>
      ),
      rank: margin ?? -999,
    } satisfies ListRow;
  });
}

const ROW_PX = 44;
/** Findings shown at once: more than anybody works through in a day. */
const MOST_CARDS = 100;

/** A list of a thousand rows as quick as one of ten; J and K walk it. */
function VirtualRows({ rows }: { rows: ListRow[] }) {
  const { selection, select } = useDesk();
  const holder = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => holder.current,
    estimateSize: () => ROW_PX,
    overscan: 8,
  });
  const selectedKey = selection && selectionText(selection);
  return (
    <div ref={holder} tabIndex={-1} data-list className="min-h-0 flex-1 overflow-y-auto">
      <ul style={{ height: virtual.getTotalSize() }} className="relative">
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index]!;
          const selected = row.key === selectedKey;
          return (
            <li
              key={row.key}
              style={{ transform: `translateY(${item.start}px)`, height: ROW_PX }}
              className="absolute inset-x-0"
            >
              <button
                type="button"
                data-row={row.key}
                aria-current={selected ? "true" : undefined}
                onClick={() => select(row.pick)}
                className={`flex h-full w-full items-center gap-2 border-b border-rule px-3 text-left hover:text-clay ${selected ? "border-l-2 border-l-clay bg-ground" : ""}`}
              >
                {row.glyph}
                <span className="min-w-0 flex-1">
                  <span className="block truncate text-[13px]">{row.name}</span>
                  <span className="block truncate text-xs text-quiet">{row.note}</span>
                </span>
                {row.tail}
              </button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}

/** The left column: the stage's findings, then its list. */
export function LeftColumn({ stage: { id: stage, list } }: { stage: StageManifest }) {
  const desk = useDesk();
  const isOfSectors = list === "sectors";
  const [filter, setFilter] = useState("");
  const [sort, setSort] = useState<"need" | "name">("need");
  const rows = useMemo(() => {
    const shown = { world: desk.rested, summaries: desk.summaries, stateOf: desk.stateOf };
    const all = list === "places" ? surveyRows(shown) : isOfSectors ? sectorRows(shown) : linkRows(shown);
    const wanted = filter.trim().toLowerCase();
    const kept = wanted === "" ? all : all.filter((row) => `${row.name} ${row.note}`.toLowerCase().includes(wanted));
    return kept.sort((x, y) => (sort === "need" ? x.rank - y.rank : 0) || x.name.localeCompare(y.name));
    // The rows follow from the world and its summaries alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [list, desk.rested, desk.outcome, filter, sort]);
  const findings = desk.findings.filter((finding) => finding.stage === stage);
  const count = desk.counts[stage];
  return (
    <aside
      aria-label={
        list === "places" ? "Sites and subscribers" : isOfSectors ? "Findings and sectors" : "Findings and links"
      }
      className="flex w-66 shrink-0 flex-col border-r border-rule bg-panel max-md:h-96 max-md:w-full max-md:border-y"
    >
      {list !== "places" && (
        <section aria-label="Findings" className="flex max-h-[55%] flex-col border-b border-rule">
          <h2 className="px-3 py-1.5 text-xs font-semibold text-quiet">
            Findings, by people affected {count > 0 && <span className="figures">({count})</span>}
          </h2>
          <div
            className="min-h-0 overflow-y-auto border-t border-rule"
            tabIndex={0}
            role="region"
            aria-label="List of findings"
          >
            {findings.length === 0 && (
              <p className="px-3 py-2 text-xs text-quiet">
                {desk.data.shown === null
                  ? "The plan is being worked out…"
                  : desk.world.links.size === 0
                    ? "Nothing to check yet: link a site and a subscriber first."
                    : "Nothing found in what this stage checks."}
              </p>
            )}
            {findings.slice(0, MOST_CARDS).map((finding) => (
              <FindingCard
                key={finding.id}
                finding={finding}
                open={stage !== "paths" && isChosen(finding, desk.selection)}
              />
            ))}
            {count > Math.min(findings.length, MOST_CARDS) && (
              <p className="px-3 py-2 text-xs text-quiet">
                and {count - Math.min(findings.length, MOST_CARDS)} more that hurt fewer people; they show with their
                links below
              </p>
            )}
          </div>
        </section>
      )}
      <div className="flex items-center gap-2 border-b border-rule px-3 py-1.5">
        <input
          type="search"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
          placeholder={list === "places" ? "Filter places" : isOfSectors ? "Filter sectors" : "Filter links"}
          aria-label="Filter the list"
          className="w-full min-w-0 rounded border border-rule bg-panel px-2 py-0.5 text-sm"
        />
        <select
          aria-label="Sort"
          value={sort}
          onChange={(event) => setSort(event.target.value as "need" | "name")}
          className="rounded border border-rule bg-panel py-0.5 text-xs"
        >
          <option value="need">by need</option>
          <option value="name">by name</option>
        </select>
      </div>
      {list === "places" && (
        <nav aria-label="Survey" className="flex items-center gap-2 border-b border-rule px-3 py-1 text-xs">
          <AddMenu isFirst />
          {[
            ["import", "Import"],
            ["register", "Register"],
            ["noise", "Noise"],
            ["export", "Export"],
          ].map(([page, word]) => (
            <Link key={page} to={`/plans/${desk.world.plan.id}/${page}`} className="text-clay underline">
              {word}
            </Link>
          ))}
        </nav>
      )}
      {rows.length === 0 && (
        <p className="p-3 text-sm text-quiet">
          {filter
            ? `Nothing named like "${filter}".`
            : list === "places"
              ? "No places yet. Add one with the button above, or import them from a file."
              : "No links yet. Choose a customer under Survey and see who reaches it, or add a bridge."}
        </p>
      )}
      <VirtualRows rows={rows} />
    </aside>
  );
}
