import { attachToSite, proposeBridge } from "#core/propose";
import type { Site, Subscriber } from "#core/plan";
import { MOST_SEEN, type ViewRow } from "#core/search";
import { useEffect, useMemo, useState } from "react";
import { useDesk } from "../desk/DeskContext";
import { Button, figure, StateStroke, Table, useFormats, type Column } from "../ui";
import { useView } from "../ask/useView";

/** Rows drawn at once; the list is ranked, so that what is left out promises least. */
const MOST_ROWS = 300;

const COLUMNS: Column[] = [
  { name: "Path" },
  { name: "Place" },
  { name: "Distance", isNumber: true },
  { name: "Zone", isNumber: true },
  { name: "Chain’s level", isNumber: true },
  { name: "Margin", isNumber: true },
  { name: "Down/up", isNumber: true },
  { name: "Lacks" },
  { name: "Action", isHidden: true },
];

/** All subscribers or sites as a site sees them, or all sites as a subscriber does: served first, then the nearest misses. */
export function PlacesInView({
  place,
  isSite,
  of,
}: {
  place: Site | Subscriber;
  isSite: boolean;
  of: "subscribers" | "sites";
}) {
  const { data, world, draft, select, setHeat } = useDesk();
  const formats = useFormats();
  const [filter, setFilter] = useState<"all" | "served" | "misses">("all");
  const view = useView<ViewRow>(
    data.world.plan.id,
    draft.patches,
    isSite ? { kind: "fromSite", siteId: place.id, of } : { kind: "fromSubscriber", subscriberId: place.id },
  );
  const rows = view.rows;
  const heat = useMemo(
    () =>
      rows?.flatMap((row) => {
        const seen = row.kind === "site" ? world.sites.get(row.id) : world.subscribers.get(row.id);
        if (!seen) return [];
        const { latDeg, lonDeg } = seen;
        const { state, served, marginDb, zoneShare: share } = row;
        return [{ latDeg, lonDeg, state, share, marginDb, served, isAround: true }];
      }) ?? null,
    [rows, world.sites, world.subscribers],
  );
  useEffect(() => {
    setHeat(heat);
    return () => setHeat(null);
  }, [heat, setHeat]);
  if (view.failed)
    return (
      <p role="alert" className="p-3 text-sm text-blocked">
        {view.failed}
      </p>
    );
  if (!rows) return <p className="p-3 text-sm text-quiet">Looking out from {place.name}…</p>;
  if (rows.length === 0)
    return (
      <p className="p-3 text-sm text-quiet">
        There is nobody to see yet. Add or import {of === "subscribers" ? "customers" : "sites"} first.
      </p>
    );
  const linkedSubscribers = new Set<string>();
  const linkedHere = new Map<string, string>();
  for (const link of world.links.values()) {
    const [a, b] = [link.aRadioId, link.bRadioId].map((id) => world.radios.get(id));
    const ids = [a, b].map((radio) => radio?.siteId ?? radio?.subscriberId ?? "");
    for (const radio of [a, b]) if (radio?.subscriberId) linkedSubscribers.add(radio.subscriberId);
    const other = ids[0] === place.id ? ids[1] : ids[1] === place.id ? ids[0] : null;
    if (other) linkedHere.set(other, link.id);
  }
  const customerOf = (row: ViewRow) => (isSite ? world.subscribers.get(row.id) : (place as Subscriber));
  const best = isSite ? undefined : rows.find(({ id, served }) => served && !linkedHere.has(id));
  // A customer has one link: whoever is served from elsewhere moves over.
  const isServedElsewhere = (row: ViewRow) => linkedSubscribers.has(customerOf(row)?.id ?? "");
  const isMiss = (row: ViewRow) => !row.served && row.missBy !== null;
  const shown = rows.filter((row) => (filter === "served" ? row.served : filter === "misses" ? isMiss(row) : true));
  const counts = {
    all: rows.length,
    served: rows.filter(({ served }) => served).length,
    misses: rows.filter(isMiss).length,
  };
  const take = (row: ViewRow) => {
    const from = isSite ? (place as Site) : world.sites.get(row.id)!;
    const id = () => crypto.randomUUID();
    const subscriber = customerOf(row);
    const patches = subscriber
      ? attachToSite(world, from, subscriber, id)?.patches
      : proposeBridge(world, from, world.sites.get(row.id)!, id);
    if (!patches) return;
    draft.put(patches);
    select({ kind: "link", id: patches.at(-1)!.id });
  };
  return (
    <div className={view.isStale ? "opacity-70" : ""}>
      <div className="flex flex-wrap items-center gap-2 px-3 py-1.5 text-xs">
        {(
          [
            ["all", "all"],
            ["served", "served"],
            ["misses", "near misses"],
          ] as const
        ).map(([key, word]) => (
          <Button
            key={key}
            aria-pressed={filter === key}
            className={`px-1.5 py-0 text-xs ${filter === key ? "border-clay text-clay" : ""}`}
            onClick={() => setFilter(key)}
          >
            {word} {counts[key]}
          </Button>
        ))}
        {best && (
          <Button className="px-1.5 py-0 text-xs" onClick={() => take(best)}>
            Attach to the best: {best.name}
          </Button>
        )}
        <span className="text-quiet">
          {rows.length === MOST_SEEN ? `the nearest ${MOST_SEEN}, ` : ""}tried with kit of the library at present
          heights; {rows.length} paths in {figure(view.tookMs, 0)} ms
        </span>
      </div>
      <Table caption={`What ${place.name} sees, best first`} columns={COLUMNS} isSticky>
        {shown.slice(0, MOST_ROWS).map((row) => (
          <tr key={row.id}>
            <td>
              <StateStroke state={row.state} />
            </td>
            <td className="max-w-40 truncate" title={row.name}>
              <button type="button" className="hover:text-clay" onClick={() => select({ kind: row.kind, id: row.id })}>
                {row.name}
              </button>
            </td>
            <td className="figures text-right text-xs whitespace-nowrap">{formats.distance(row.distanceM)}</td>
            <td className="figures text-right text-xs">{row.zoneShare === null ? "–" : figure(row.zoneShare, 2)}</td>
            <td className="figures text-right text-xs whitespace-nowrap">
              {row.levelDbm === null ? "–" : `${figure(row.levelDbm, 0)} dBm`}
            </td>
            <td
              className={`figures text-right text-xs whitespace-nowrap ${row.served ? "font-semibold" : "text-quiet"}`}
            >
              {row.marginDb === null ? "–" : `${figure(row.marginDb)} dB`}
            </td>
            <td className="figures text-right text-xs whitespace-nowrap">
              {figure(row.downMbps, 0)}/{figure(row.upMbps, 0)}
            </td>
            <td className="text-xs">{row.lacks}</td>
            <td className="text-right">
              {linkedHere.has(row.id) ? (
                <Button
                  look="quiet"
                  className="px-1.5 py-0 text-xs"
                  onClick={() => select({ kind: "link", id: linkedHere.get(row.id)! })}
                >
                  Linked already
                </Button>
              ) : (
                <Button
                  className="px-1.5 py-0 text-xs"
                  aria-label={
                    isServedElsewhere(row) ? `Move to ${isSite ? place.name : row.name}` : `Try a link with ${row.name}`
                  }
                  disabled={row.lacks.startsWith("no fitting")}
                  onClick={() => take(row)}
                >
                  {isServedElsewhere(row) ? "Move here" : "Try"}
                </Button>
              )}
            </td>
          </tr>
        ))}
      </Table>
      {shown.length > MOST_ROWS && (
        <p className="px-3 py-1 text-xs text-quiet">and {shown.length - MOST_ROWS} that promise less</p>
      )}
    </div>
  );
}
