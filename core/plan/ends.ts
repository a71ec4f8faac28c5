import type { AntennaModel } from "../antenna";
import type { Place } from "../geodesy";
import type { RadioModel } from "../radio";
import type { Link, Radio, Scan, Subscriber } from "./kinds";
import type { Demand } from "./required";
import type { World } from "./world";

/** One end of a link with all that its radio needs to know. */
export interface LinkEnd {
  radio: Radio;
  model: RadioModel;
  antenna: AntennaModel;
  place: Place;
  placeName: string;
  /** The highest an antenna can stand here, m above ground. */
  maxHeightM: number;
  /** Wall or glass in front of the antenna. */
  behind: Subscriber["behind"];
  /** What the site's record says of danger and of the way there; empty at a subscriber's. */
  hazards: string;
  access: string;
  /** What must reach this end of its link: what the customer asks for, or what a bridge must carry; null where nothing is known. */
  demand: Demand | null;
  /** Noise scans taken at this place. */
  scans: readonly Scan[];
}

const NO_SCANS: readonly Scan[] = [];

/** The end at a radio. Throws RangeError when the plan names something it does not hold: a broken contract, never a bad plan. */
export function endOf(world: World, radioId: string): LinkEnd {
  const radio = required(world.radios, radioId, "radio");
  const model = required(world.radioModels, radio.radioModelId, "radio model");
  const antenna = required(world.antennaModels, radio.antennaModelId, "antenna model");
  if (radio.siteId !== null) {
    const site = required(world.sites, radio.siteId, "site");
    return {
      radio,
      model,
      antenna,
      place: site,
      placeName: site.name,
      maxHeightM: site.structureHeightM,
      behind: "none",
      demand: null,
      hazards: site.hazards,
      access: site.access,
      scans: world.scansBySite.get(site.id) ?? NO_SCANS,
    };
  }
  const subscriber = required(world.subscribers, radio.subscriberId ?? "", "subscriber");
  return {
    radio,
    model,
    antenna,
    place: subscriber,
    placeName: subscriber.name,
    maxHeightM: subscriber.maxHeightM,
    behind: subscriber.behind,
    demand: { downMbps: subscriber.demandMbps, upMbps: subscriber.demandUpMbps },
    hazards: "",
    access: "",
    scans: NO_SCANS,
  };
}

/** Both ends of a link; the second knows what the link must carry. */
export function linkEnds(world: World, link: Link): { a: LinkEnd; b: LinkEnd } {
  const b = endOf(world, link.bRadioId);
  const required = b.demand === null ? world.required.get(link.id) : undefined;
  return { a: endOf(world, link.aRadioId), b: required ? { ...b, demand: required } : b };
}

function required<T>(rows: Map<string, T>, id: string, what: string): T {
  const row = rows.get(id);
  if (!row) throw new RangeError(`${what} ${id} is not in the plan`);
  return row;
}

/** What a link is called: by its places. */
export function linkName(world: World, linkId: string): string {
  const { a, b } = linkEnds(world, world.links.get(linkId)!);
  return `${a.placeName} – ${b.placeName}`;
}
