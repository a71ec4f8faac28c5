import type { Part, Radio, Site, World } from "../plan";
import { switchFeeds } from "./inputs";
import { siteLoadW } from "./site";

/** What a site's switch feeds, and whether it can. */
export interface SwitchBudget {
  part: Part;
  fed: Radio[];
  /** What the fed radios draw at their greatest load, and all at once as they start, W. */
  loadW: number;
  startW: number;
  /** Watts and sockets that are lacking; 0 where they are enough, or the sheet does not tell. */
  overW: number;
  overPorts: number;
  /** They run, but not all of them may start at once. */
  startsInTurn: boolean;
}

/** The radios of a site that its switch feeds: those that bear what it gives, over copper. */
export const fedBySwitch = (world: World, site: Site, radios: readonly Radio[]): Radio[] =>
  radios.filter((radio) => feeds(world, site, radio) !== null);

/** The switch that feeds a radio; null where it has an injector of its own, or stands at no site. */
export function feedingSwitch(world: World, radio: Radio): Part | null {
  const site = world.sites.get(radio.siteId ?? "");
  return site ? feeds(world, site, radio) : null;
}

function feeds(world: World, site: Site, { radioModelId, cableKind }: Radio): Part | null {
  const part = world.parts.get(site.switchPartId ?? "");
  const input = world.radioModels.get(radioModelId)?.powerInput;
  return part && input !== undefined && cableKind !== "fibre" && switchFeeds(part.standard, input) ? part : null;
}

/** Budget of a site's switch; null without one. `radios` are those of the site. */
export function switchBudget(world: World, site: Site, radios: readonly Radio[]): SwitchBudget | null {
  const part = world.parts.get(site.switchPartId ?? "");
  if (!part) return null;
  const fed = fedBySwitch(world, site, radios);
  const models = fed.map(({ radioModelId }) => world.radioModels.get(radioModelId)!);
  const loadW = models.reduce((sum, model) => sum + model.loadW, 0);
  const startW = models.reduce((sum, model) => sum + (model.startW ?? model.loadW), 0);
  const overW = part.watts === null ? 0 : Math.max(0, loadW - part.watts);
  return {
    ...{ part, fed, loadW, startW, overW },
    overPorts: part.ports === null ? 0 : Math.max(0, fed.length - part.ports),
    startsInTurn: part.watts !== null && overW === 0 && startW > part.watts,
  };
}

/** What an inverter behind a battery gives of what it takes. */
const INVERTER_EFFICIENCY = 0.85;

/** Hours that the battery behind a site's mains holds its radios and what else hangs there; null without one, or with nothing to hold. */
export function hoursHeld(world: World, site: Site, radios: readonly Radio[]): number | null {
  const loadW = siteLoadW(world, site, radios);
  if (site.upsWh <= 0 || loadW <= 0) return null;
  return (site.upsWh * INVERTER_EFFICIENCY) / loadW;
}
