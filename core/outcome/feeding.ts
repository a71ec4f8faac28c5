import type { Link, World } from "../plan";

/** Sites by how many bridges they stand from a feed; those that no feed reaches are left out. */
export function stepsFromFeed(world: World): Map<string, number> {
  const steps = new Map<string, number>(
    [...world.sites.values()].flatMap(({ id, isFeed }) => (isFeed ? [[id, 0] as const] : [])),
  );
  const bridges = [...world.links.values()].filter(({ kind }) => kind === "bridge");
  const siteOf = (radioId: string) => world.radios.get(radioId)?.siteId ?? null;
  for (const [siteId, far] of steps)
    for (const { aRadioId, bRadioId } of bridges) {
      const ends = [siteOf(aRadioId), siteOf(bRadioId)];
      if (!ends.includes(siteId)) continue;
      const other = ends.find((id) => id !== siteId);
      if (other && !steps.has(other)) steps.set(other, far + 1);
    }
  return steps;
}

const sitesOf = (world: World, { aRadioId, bRadioId }: Link): string[] =>
  [aRadioId, bRadioId].flatMap((id) => world.radios.get(id)?.siteId ?? []);

/** The end of a link that is nearer to a feed; null where no feed reaches either. */
export function nearSite(world: World, link: Link, far: ReadonlyMap<string, number>): string | null {
  const reached = sitesOf(world, link).filter((id) => far.has(id));
  return reached.sort((x, y) => far.get(x)! - far.get(y)!)[0] ?? null;
}

/** The bridges that bring each site its feed. */
export function feedingLinks(world: World, far: ReadonlyMap<string, number>): Map<string, string[]> {
  const feeders = new Map<string, string[]>();
  for (const link of world.links.values()) {
    if (link.kind !== "bridge") continue;
    const [x, y] = sitesOf(world, link);
    for (const [site, other] of [
      [x, y],
      [y, x],
    ])
      if (site && other && (far.get(other) ?? Infinity) < (far.get(site) ?? -1))
        feeders.set(site, [...(feeders.get(site) ?? []), link.id]);
  }
  return feeders;
}
