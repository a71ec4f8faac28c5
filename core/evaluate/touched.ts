import { hearingTouched } from "../interference";
import { radiosTouched, type Link, type Patch, type Plan, type Site, type Subscriber, type World } from "../plan";

/** What of the plan's settings no answer is made from. */
const SILENT_SETTINGS: ReadonlySet<keyof Plan> = new Set(["id", "name", "createdAt", "isDemo"]);
/** What an answer knows of a place; the rest of its record changes none. */
const SITE_FIELDS: readonly (keyof Site)[] = ["latDeg", "lonDeg", "name", "structureHeightM"];
const SUBSCRIBER_FIELDS: readonly (keyof Subscriber)[] = [
  ...(["latDeg", "lonDeg", "name", "maxHeightM", "behind"] as const),
  ...(["demandMbps", "demandUpMbps", "people"] as const),
];

/** What has to be worked out again after a change. */
export interface Touched {
  /** Settings or ground changed: nothing that was worked out holds. */
  everything: boolean;
  /** Whether a link is answered otherwise now, as far as its own ends go. */
  isAnswered: (link: Link) => boolean;
  /** Whether a receiver may hear otherwise now. */
  isHearing: (link: Link, radioId: string) => boolean;
  /** Links with another newest reading. */
  measured: ReadonlySet<string>;
}

const EVERYTHING: Touched = {
  everything: true,
  isAnswered: () => true,
  isHearing: () => true,
  measured: new Set(),
};

const idsOf = (patches: readonly Patch[], kind: Patch["kind"]) =>
  new Set(patches.flatMap((patch) => (patch.kind === kind ? [patch.id] : [])));

const settingsDiffer = (before: Plan, after: Plan) =>
  before !== after &&
  (Object.keys(after) as (keyof Plan)[]).some(
    (field) => !SILENT_SETTINGS.has(field) && JSON.stringify(before[field]) !== JSON.stringify(after[field]),
  );

/** Places of which something changed that answers are made from. */
function movedPlaces(before: World, after: World, patches: readonly Patch[]): Set<string> {
  const moved = new Set<string>();
  const look = <Row>(id: string, x: Row | undefined, y: Row | undefined, fields: readonly (keyof Row)[]) => {
    if (!x || !y || fields.some((field) => x[field] !== y[field])) moved.add(id);
  };
  for (const { kind, id } of patches) {
    if (kind === "sites") look(id, before.sites.get(id), after.sites.get(id), SITE_FIELDS);
    if (kind === "subscribers") look(id, before.subscribers.get(id), after.subscribers.get(id), SUBSCRIBER_FIELDS);
    // A scan is heard at its site by whoever listens there.
    if (kind === "scans")
      for (const { scans } of [before, after]) {
        const siteId = scans.get(id)?.siteId;
        if (siteId) moved.add(siteId);
      }
  }
  return moved;
}

/** Radios of which something changed: their own rows, channels, kit, places, or links. */
function touchedRadios(worlds: readonly [World, World], patches: readonly Patch[]): Set<string> {
  const radios = radiosTouched(worlds, patches);
  const [models, places] = [idsOf(patches, "equipment"), movedPlaces(...worlds, patches)];
  if (models.size + places.size > 0)
    for (const world of worlds)
      for (const { id, siteId, subscriberId, radioModelId, antennaModelId } of world.radios.values())
        if (places.has(siteId ?? subscriberId ?? "") || models.has(radioModelId) || models.has(antennaModelId))
          radios.add(id);
  return radios;
}

/** What a change from one world to another makes necessary; exact, so that the rest can be taken over as it is. */
export function touchedBy(before: World, after: World, patches: readonly Patch[]): Touched {
  const ofGround = patches.some(({ kind }) => kind === "layers" || kind === "areas");
  if (ofGround || settingsDiffer(before.plan, after.plan)) return EVERYTHING;
  const links = idsOf(patches, "links");
  const radios = touchedRadios([before, after], patches);
  for (const world of [before, after])
    for (const id of links) {
      const link = world.links.get(id);
      if (link) radios.add(link.aRadioId).add(link.bRadioId);
    }
  // Who aims at one that changed may look elsewhere now.
  const aiming = new Set(radios);
  const turned = new Set(radios);
  if (radios.size > 0)
    for (const world of [before, after])
      for (const { aRadioId, bRadioId } of world.links.values())
        for (const [id, mate] of [
          [aRadioId, bRadioId],
          [bRadioId, aRadioId],
        ] as const)
          if (radios.has(mate)) {
            aiming.add(id);
            if (world.radios.get(id)?.azimuthDeg === null) turned.add(id);
          }
  const hears = hearingTouched(before, after, aiming);
  const readings = idsOf(patches, "measurements");
  return {
    everything: false,
    isAnswered: ({ id, aRadioId, bRadioId }) => links.has(id) || radios.has(aRadioId) || radios.has(bRadioId),
    isHearing: (link, radioId) => turned.has(radioId) || hears(link, radioId),
    measured: new Set(
      [before, after].flatMap(({ measurements }) => [...readings].map((id) => measurements.get(id)?.linkId ?? "")),
    ),
  };
}
