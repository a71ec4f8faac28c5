import type { World } from "#core/plan";

interface Named {
  id: string;
  name: string;
}

/** What the search finds by name. */
export interface NamedThings {
  sites: Named[];
  subscribers: Named[];
  links: Named[];
}

/** Name of the place at which a radio stands. */
export function placeNameOf(world: Pick<World, "radios" | "sites" | "subscribers">, radioId: string): string {
  const radio = world.radios.get(radioId);
  return world.sites.get(radio?.siteId ?? "")?.name ?? world.subscribers.get(radio?.subscriberId ?? "")?.name ?? "?";
}

/** The names in a plan. */
export function namesIn(world: World): NamedThings {
  const named = ({ id, name }: Named): Named => ({ id, name });
  return {
    sites: [...world.sites.values()].map(named),
    subscribers: [...world.subscribers.values()].map(named),
    links: [...world.links.values()].map(({ id, aRadioId, bRadioId }) => ({
      id,
      name: `${placeNameOf(world, aRadioId)} – ${placeNameOf(world, bRadioId)}`,
    })),
  };
}
