import { counted } from "../words";
import type { Link } from "./schema";
import { removePatch, type Patch } from "./patch";
import type { World } from "./world";

/** Something that can be taken off the plan. */
export type Removable = { kind: "sites" | "subscribers" | "radios" | "links"; id: string };

/** A removal with all that stands on what goes. */
export interface Removal {
  patches: Patch[];
  /** What goes along, in words: "2 links", "1 reading". */
  along: string[];
}

/** Radios at a place, or the one that is named. */
function radiosAt(world: World, { kind, id }: Removable): string[] {
  if (kind === "radios") return [id];
  const key = kind === "sites" ? "siteId" : "subscriberId";
  return [...world.radios.values()].filter((radio) => radio[key] === id).map((radio) => radio.id);
}

/** The radios that nothing is left for once some links go: far ends and customers' radios, never a sector. */
function leftAlone(world: World, gone: ReadonlySet<Link>): string[] {
  const used = new Set<string>();
  for (const link of world.links.values()) if (!gone.has(link)) used.add(link.aRadioId).add(link.bRadioId);
  return [...gone]
    .flatMap(({ aRadioId, bRadioId }) => [aRadioId, bRadioId])
    .filter((id) => !used.has(id) && world.radios.get(id)?.role !== "sector");
}

/** The carriers that no radio uses any more once some are gone. */
function carriersLeft(world: World, gone: ReadonlySet<string>): Set<string> {
  const left = new Set([...gone].flatMap((id) => world.radios.get(id)?.carrierId ?? []));
  for (const { id, carrierId } of world.radios.values()) if (!gone.has(id)) left.delete(carrierId);
  return left;
}

/**
 * The patches that take things off the plan together with whatever stands on them: a place with its radios, scans and
 * photographs, their links, the links' readings, and the radios at other places that then serve nothing. A sector stays, with or
 * without customers. One change, so that one undo brings all of it back.
 */
export function removalOf(world: World, things: readonly Removable[]): Removal {
  const places = new Set(things.filter(({ kind }) => kind === "sites" || kind === "subscribers").map(({ id }) => id));
  const named = new Set(things.filter(({ kind }) => kind === "links").map(({ id }) => id));
  const radios = new Set(things.flatMap((thing) => (thing.kind === "links" ? [] : radiosAt(world, thing))));
  const links = new Set(
    [...world.links.values()].filter(
      ({ id, aRadioId, bRadioId }) => named.has(id) || radios.has(aRadioId) || radios.has(bRadioId),
    ),
  );
  for (const id of leftAlone(world, links)) radios.add(id);
  const linkIds = new Set([...links].map(({ id }) => id));
  const carriers = carriersLeft(world, radios);
  const readings = [...world.measurements.values()].filter(({ linkId }) => linkIds.has(linkId));
  const scans = [...world.scans.values()].filter(({ siteId }) => places.has(siteId));
  const visits = [...world.visits.values()].filter(({ linkId }) => linkIds.has(linkId));
  const alarms = [...world.alarms.values()].filter(({ linkId }) => linkIds.has(linkId));
  const photos = [...world.photos.values()].filter(({ ownerId }) => places.has(ownerId));
  const without = (kind: Patch["kind"], ids: Iterable<string>) => [...ids].map((id) => removePatch(kind, id));
  const otherLinks = links.size - named.size;
  const otherRadios = radios.size - things.filter(({ kind }) => kind === "radios").length;
  return {
    // What was asked for first: the logbook names what comes first.
    patches: [
      ...things
        .filter(({ kind }) => kind === "sites" || kind === "subscribers")
        .map(({ kind, id }) => removePatch(kind, id)),
      ...without("links", linkIds),
      ...without("radios", radios),
      ...without("carriers", carriers),
      ...without(
        "measurements",
        readings.map(({ id }) => id),
      ),
      ...without(
        "scans",
        scans.map(({ id }) => id),
      ),
      ...without(
        "photos",
        photos.map(({ id }) => id),
      ),
      ...without(
        "visits",
        visits.map(({ id }) => id),
      ),
      ...without(
        "alarms",
        alarms.map(({ id }) => id),
      ),
    ],
    along: [
      ...(otherLinks > 0 ? [counted(otherLinks, "link")] : []),
      ...(otherRadios > 0 ? [counted(otherRadios, "radio")] : []),
      ...(readings.length > 0 ? [counted(readings.length, "reading")] : []),
      ...(scans.length > 0 ? [counted(scans.length, "noise scan")] : []),
      ...(photos.length > 0 ? [counted(photos.length, "photograph")] : []),
      ...(visits.length > 0 ? [counted(visits.length, "job")] : []),
      ...(alarms.length > 0 ? [counted(alarms.length, "alarm")] : []),
    ],
  };
}
