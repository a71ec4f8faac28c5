import type { Radio, Site, World } from "../plan";

/** What is put up in one stage of growth. */
interface StageKit {
  radios: Radio[];
  /** Sites on which nothing stood before. */
  sites: Site[];
}

/** Stages of growth that any link of a plan is built in, first to last. */
export const growthStages = ({ links }: World): number[] =>
  [...new Set([...links.values()].map(({ growthStage }) => growthStage))].sort((x, y) => x - y);

/**
 * The radios and sites of one stage of growth. A radio is put up with the first of its links, a site with the first of its radios;
 * what no link needs yet belongs to the first stage.
 */
export function kitOfStage({ links, radios, sites }: World, stage: number): StageKit {
  const stageOf = new Map<string, number>();
  for (const { aRadioId, bRadioId, growthStage } of links.values())
    for (const id of [aRadioId, bRadioId]) stageOf.set(id, Math.min(stageOf.get(id) ?? growthStage, growthStage));
  const stageOfSite = new Map<string, number>();
  const kit: StageKit = { radios: [], sites: [] };
  for (const radio of radios.values()) {
    const own = stageOf.get(radio.id) ?? 1;
    if (own === stage) kit.radios.push(radio);
    if (radio.siteId !== null) stageOfSite.set(radio.siteId, Math.min(stageOfSite.get(radio.siteId) ?? own, own));
  }
  for (const [siteId, own] of stageOfSite) if (own === stage) kit.sites.push(sites.get(siteId)!);
  return kit;
}
