import { randomUUID } from "node:crypto";
import type { Edit, Site, Subscriber, World } from "#core/plan";
import type { ImportedPlace } from "#formats/places";

const PLACE_DECIMALS = 1e6;
const rounded = (deg: number) => Math.round(deg * PLACE_DECIMALS) / PLACE_DECIMALS;

function asSite(planId: string, place: ImportedPlace, before: Site | undefined): Site {
  const structureHeightM = place.maxHeightM ?? place.heightM ?? before?.structureHeightM ?? 15;
  return {
    id: before?.id ?? randomUUID(),
    planId,
    name: place.name,
    latDeg: rounded(place.latDeg),
    lonDeg: rounded(place.lonDeg),
    structureKind: place.structure ?? before?.structureKind ?? "mast",
    structureHeightM,
    poleDiameterMm: before?.poleDiameterMm ?? 48,
    power: place.power ?? before?.power ?? "mains",
    freeMounts: before?.freeMounts ?? 2,
    isFeed: place.isFeed || (before?.isFeed ?? false),
    notes: before?.notes ?? "",
  };
}

function asSubscriber(planId: string, place: ImportedPlace, before: Subscriber | undefined): Subscriber {
  const antennaHeightM = place.heightM ?? before?.antennaHeightM ?? 6;
  return {
    id: before?.id ?? randomUUID(),
    planId,
    name: place.name,
    latDeg: rounded(place.latDeg),
    lonDeg: rounded(place.lonDeg),
    mount: place.mount ?? before?.mount ?? "roof",
    antennaHeightM,
    maxHeightM: place.maxHeightM ?? Math.max(before?.maxHeightM ?? 0, antennaHeightM + 3),
    demandMbps: place.demandMbps ?? before?.demandMbps ?? 20,
    people: place.people ?? before?.people ?? 2,
    behind: before?.behind ?? "none",
    notes: before?.notes ?? "",
  };
}

/**
 * Edits that bring places into a plan: those of a known name of their kind are changed, the others are new. The same
 * file twice therefore changes nothing, and says so.
 */
export function placeEdits(
  world: World,
  places: ImportedPlace[],
): { edits: Edit[]; added: number; changed: number; same: number } {
  const siteByName = new Map([...world.sites.values()].map((site) => [site.name.toLowerCase(), site]));
  const subscriberByName = new Map([...world.subscribers.values()].map((one) => [one.name.toLowerCase(), one]));
  const edits: Edit[] = [];
  const counts = { added: 0, changed: 0, same: 0 };
  for (const place of places) {
    const key = place.name.toLowerCase();
    const before = place.kind === "site" ? siteByName.get(key) : subscriberByName.get(key);
    const edit: Edit =
      place.kind === "site"
        ? withId("sites", asSite(world.plan.id, place, before as Site | undefined))
        : withId("subscribers", asSubscriber(world.plan.id, place, before as Subscriber | undefined));
    if (before && JSON.stringify({ ...before }) === JSON.stringify({ ...before, ...edit.row })) counts.same++;
    else {
      edits.push(edit);
      counts[before ? "changed" : "added"]++;
    }
    if (edit.kind === "sites" && edit.row) siteByName.set(key, edit.row);
    if (edit.kind === "subscribers" && edit.row) subscriberByName.set(key, edit.row);
  }
  return { edits, ...counts };
}

function withId<K extends "sites" | "subscribers">(kind: K, row: K extends "sites" ? Site : Subscriber): Edit {
  return { kind, id: row.id, row } as Edit;
}
