import type { World } from "#core/plan";
import { useMemo } from "react";
import type { MapPick, MapSite, MapSubscriber } from "../map/types";
import type { Selection } from "./selection";

/** The customers to whom a link leads. */
export function linkedSubscribers(world: World): Set<string> {
  const linked = new Set<string>();
  for (const link of world.links.values()) {
    const id = world.radios.get(link.bRadioId)?.subscriberId;
    if (id) linked.add(id);
  }
  return linked;
}

/** A plan's places as the map draws them; the same lists while they stand as they stood. */
export function useMapPlaces(world: World): { sites: MapSite[]; subscribers: MapSubscriber[] } {
  const linked = useMemo(() => linkedSubscribers(world), [world]);
  const sites = useMemo(
    () => [...world.sites.values()].map((site) => ({ id: site.id, name: site.name, place: site })),
    [world.sites],
  );
  const subscribers = useMemo(
    () =>
      [...world.subscribers.values()].map((one) => ({
        id: one.id,
        name: one.name,
        place: one,
        linked: linked.has(one.id),
      })),
    [world.subscribers, linked],
  );
  return { sites, subscribers };
}

/** Returns what the map marks for a selection; nothing for a radio, which stands at its site. */
export function onMap(selection: Selection): MapPick | null {
  return selection && selection.kind !== "radio" ? { kind: selection.kind, id: selection.id } : null;
}
