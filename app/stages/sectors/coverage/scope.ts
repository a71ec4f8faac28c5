import type { Radio, World } from "#core/plan";

/** Whose coverage is shown. */
export const SCOPES = ["sector", "site", "plan"] as const;
export type Scope = (typeof SCOPES)[number];
export const SCOPE_WORDS: Record<Scope, string> = {
  sector: "this sector",
  site: "the whole site",
  plan: "all sites",
};

/** Sectors that are drawn at once; of more, those with most customers. */
const MOST_SECTORS = 60;

/** The sectors that a coverage is made of, and how many are left out. */
export function coveredBy(
  world: World,
  scope: Scope,
  sector: Radio,
  ofSite: readonly Radio[],
): { sectors: readonly Radio[]; left: number } {
  if (scope === "sector") return { sectors: [sector], left: 0 };
  if (scope === "site") return { sectors: ofSite, left: 0 };
  const customers = new Map<string, number>();
  for (const { aRadioId } of world.links.values()) customers.set(aRadioId, (customers.get(aRadioId) ?? 0) + 1);
  const all = [...world.radios.values()].filter(({ role, siteId }) => role === "sector" && siteId !== null);
  const most = all.sort((x, y) => (customers.get(y.id) ?? 0) - (customers.get(x.id) ?? 0)).slice(0, MOST_SECTORS);
  return { sectors: most, left: all.length - most.length };
}
