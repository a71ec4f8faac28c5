import { kitOfStage } from "#core/bill";
import type { Radio, Site, World } from "#core/plan";
import type { Selection } from "./selection";

/** The part of a plan that a selection stands for. */
export interface Scope {
  name: string;
  radios: Radio[] | undefined;
  sites: Site[] | undefined;
}

export const WHOLE: Scope = { name: "the whole plan", radios: undefined, sites: undefined };

/** What one stage of growth puts up. */
export const stageScope = (world: World, stage: number): Scope => ({
  name: `stage ${stage} of growth`,
  ...kitOfStage(world, stage),
});

/** What is chosen: a site with its radios, one radio, both ends of a bridge, or a customer's own radio; null for what takes no kit. */
export function scopeOf(world: World, selection: Selection): Scope | null {
  if (!selection) return null;
  if (selection.kind === "site") {
    const site = world.sites.get(selection.id);
    if (!site) return null;
    const radios = [...world.radios.values()].filter(({ siteId }) => siteId === site.id);
    return { name: site.name, radios, sites: [site] };
  }
  if (selection.kind === "radio") {
    const radio = world.radios.get(selection.id);
    return radio ? { name: radio.name, radios: [radio], sites: [] } : null;
  }
  if (selection.kind !== "link") return null;
  const link = world.links.get(selection.id);
  if (!link) return null;
  const ends = link.kind === "bridge" ? [link.aRadioId, link.bRadioId] : [link.bRadioId];
  const radios = ends.flatMap((id) => world.radios.get(id) ?? []);
  return { name: radios.map(({ name }) => name).join(" and "), radios, sites: [] };
}
