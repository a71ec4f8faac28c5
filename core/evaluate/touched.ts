import { airChangeOf, type Air, type AirChange } from "../interference";
import {
  fieldsWith,
  radiosTouched,
  silentFields,
  type Link,
  type Outsider,
  type Patch,
  type Plan,
  type RowKind,
  type World,
} from "../plan";

/** What of the plan's settings no answer is made from. */
const SILENT_SETTINGS = silentFields("plans");
/** What of a place is heard by others, what only its own links' answers know, and what says who stands behind which link. */
const PLACES = { sites: fieldsByEffect("sites"), subscribers: fieldsByEffect("subscribers") } as const;
function fieldsByEffect(kind: RowKind) {
  const [heard, moved, answered, behind] = (["heard", "moved", "answered", "behind"] as const).map((effect) => [
    ...fieldsWith(kind, effect),
  ]);
  return { heard: heard!, moved: moved!, answered: answered!, behind: behind! };
}

/** What has to be worked out again after a change. */
export interface Touched {
  /** Settings or ground changed: nothing that was worked out holds. */
  everything: boolean;
  /** Whether a link is answered otherwise now, as far as its own ends go. */
  isAnswered: (link: Link) => boolean;
  /** Whether a receiver itself listens otherwise now: what it hears is gathered anew. */
  isTurned: (radioId: string) => boolean;
  /** Transmitters that are heard otherwise now; null where none is. */
  airChange: AirChange | null;
  /** What is on the air now; null where it is gathered anew. */
  air: Air | null;
  /** Links with another newest reading. */
  measured: ReadonlySet<string>;
  /** Only words changed of which nothing is worked out. */
  nothing: boolean;
  /** Links whose own ends changed: what a change is about, before anybody else hears of it. */
  own: ReadonlySet<string>;
  /** The only links that need to be looked at, where that is known; never where links come or go, or where others hear a change. */
  only: ReadonlySet<string> | null;
}

const EVERYTHING: Touched = {
  everything: true,
  isAnswered: () => true,
  isTurned: () => true,
  airChange: null,
  air: null,
  measured: new Set(),
  nothing: false,
  own: new Set(),
  only: null,
};

/** Where nothing changed of which anything is worked out. */
export const UNTOUCHED: Touched = {
  ...EVERYTHING,
  everything: false,
  isAnswered: () => false,
  isTurned: () => false,
  nothing: true,
  only: new Set(),
};

/** Whether a patch changes nothing but what people write of a place for each other. */
const isSilent = ({ kind, set }: Patch) =>
  (kind === "sites" || kind === "subscribers") &&
  set !== undefined &&
  Object.keys(set).every((field) => SILENT_FIELDS[kind].has(field));
const SILENT_FIELDS = { sites: silentFields("sites"), subscribers: silentFields("subscribers") } as const;

const idsOf = (patches: readonly Patch[], kind: Patch["kind"]) =>
  new Set(patches.flatMap((patch) => (patch.kind === kind ? [patch.id] : [])));

const settingsDiffer = (before: Plan, after: Plan) =>
  before !== after &&
  (Object.keys(after) as (keyof Plan)[]).some(
    (field) => !SILENT_SETTINGS.has(field) && JSON.stringify(before[field]) !== JSON.stringify(after[field]),
  );

/** Whether some outsider radiates otherwise: anybody may hear it. */
function outsidersDiffer(before: World, after: World, patches: readonly Patch[]): boolean {
  const models = idsOf(patches, "equipment");
  const isMade = ({ antennaModelId }: Outsider) => antennaModelId !== null && models.has(antennaModelId);
  return (
    patches.some(({ kind }) => kind === "outsiders") ||
    (models.size > 0 && [before, after].some(({ outsiders }) => [...outsiders.values()].some(isMade)))
  );
}

/** Places of which something changed, by what that concerns. */
interface Places {
  heard: Set<string>;
  /** Places that lie elsewhere now. */
  moved: Set<string>;
  answered: Set<string>;
  /** Whether other people may stand behind some link now. */
  isBehind: boolean;
}

function placesTouched(before: World, after: World, patches: readonly Patch[]): Places {
  const places: Places = { heard: new Set(), moved: new Set(), answered: new Set(), isBehind: false };
  const look = (kind: "sites" | "subscribers", id: string) => {
    type Row = Record<string, unknown> | undefined;
    const [x, y] = [before[kind].get(id) as Row, after[kind].get(id) as Row];
    const differs = (some: readonly string[]) => !x || !y || some.some((field) => x[field] !== y[field]);
    const fields = PLACES[kind];
    if (differs(fields.heard)) places.heard.add(id);
    if (differs(fields.moved)) places.moved.add(id);
    if (differs(fields.answered)) places.answered.add(id);
    if (differs(fields.behind)) places.isBehind = true;
  };
  for (const { kind, id } of patches) {
    if (kind === "sites" || kind === "subscribers") look(kind, id);
    // A scan is heard at its site by whoever listens there, and by nobody else.
    if (kind === "scans")
      for (const { scans } of [before, after]) {
        const siteId = scans.get(id)?.siteId;
        if (siteId) places.answered.add(siteId);
      }
  }
  return places;
}

/** Radios that stand at some places, or are of some models, before or after. */
function radiosAt(
  worlds: readonly [World, World],
  places: ReadonlySet<string>,
  models: ReadonlySet<string>,
): Set<string> {
  const radios = new Set<string>();
  if (places.size + models.size === 0) return radios;
  for (const world of worlds)
    for (const { id, siteId, subscriberId, radioModelId, antennaModelId } of world.radios.values())
      if (places.has(siteId ?? subscriberId ?? "") || models.has(radioModelId) || models.has(antennaModelId))
        radios.add(id);
  return radios;
}

/** Bridges that must carry something else now. */
function requiredAnew(before: World, after: World): ReadonlySet<string> {
  if (before.required === after.required) return NO_LINKS;
  const ids = new Set([...before.required.keys(), ...after.required.keys()]);
  return new Set(
    [...ids].filter((id) => {
      const [x, y] = [before.required.get(id), after.required.get(id)];
      return x?.downMbps !== y?.downMbps || x?.upMbps !== y?.upMbps || x?.from !== y?.from;
    }),
  );
}
const NO_LINKS: ReadonlySet<string> = new Set();

/** What a change from one world to another makes necessary; exact, so that the rest can be taken over as it is. */
export function touchedBy(before: World, airBefore: Air, after: World, patches: readonly Patch[]): Touched {
  const ofGround = patches.some(({ kind }) => kind === "layers" || kind === "areas");
  if (ofGround || settingsDiffer(before.plan, after.plan) || outsidersDiffer(before, after, patches)) return EVERYTHING;
  if (patches.every(isSilent)) return { ...UNTOUCHED, air: airBefore };
  const links = idsOf(patches, "links");
  const worlds = [before, after] as const;
  const places = placesTouched(before, after, patches);
  const radios = new Set([
    ...radiosTouched(worlds, patches),
    ...radiosAt(worlds, places.heard, idsOf(patches, "equipment")),
  ]);
  for (const world of [before, after])
    for (const id of links) {
      const link = world.links.get(id);
      if (link) radios.add(link.aRadioId).add(link.bRadioId);
    }
  // Who aims at one that stands elsewhere now, or at another one, may look elsewhere itself.
  const moved = new Set(
    [...radios].filter((id) => {
      const [x, y] = [before.radios.get(id), after.radios.get(id)];
      return x?.siteId !== y?.siteId || x?.subscriberId !== y?.subscriberId;
    }),
  );
  for (const id of radiosAt(worlds, places.moved, new Set())) moved.add(id);
  const aiming = new Set(radios);
  const turned = new Set(radios);
  if (moved.size + links.size > 0)
    for (const world of worlds)
      for (const { id: linkId, aRadioId, bRadioId } of world.links.values())
        for (const [id, mate] of [
          [aRadioId, bRadioId],
          [bRadioId, aRadioId],
        ] as const)
          if (moved.has(mate) || links.has(linkId)) {
            aiming.add(id);
            if (world.radios.get(id)?.azimuthDeg === null) turned.add(id);
          }
  const answered = new Set([...radios, ...radiosAt(worlds, places.answered, new Set())]);
  const readings = idsOf(patches, "measurements");
  const measured = new Set(
    worlds.flatMap(({ measurements }) => [...readings].map((id) => measurements.get(id)?.linkId ?? "")),
  );
  const change = airChangeOf(before, airBefore, after, aiming);
  const airChange = change.changed ? change : null;
  const required = requiredAnew(before, after);
  const touches = ({ id, aRadioId, bRadioId }: Link, some: ReadonlySet<string>) =>
    links.has(id) || required.has(id) || some.has(aRadioId) || some.has(bRadioId);
  const isElsewhere = patches.some(
    ({ kind, id }) => kind === "radios" && before.radios.get(id)?.siteId !== after.radios.get(id)?.siteId,
  );
  const isFew = airChange === null && links.size === 0 && !places.isBehind && !isElsewhere;
  const isLookedAt = (link: Link) => touches(link, answered) || touches(link, turned) || measured.has(link.id);
  const own = new Set([...after.links.values()].filter(isLookedAt).map(({ id }) => id));
  return {
    everything: false,
    isAnswered: (link) => touches(link, answered),
    isTurned: (radioId) => turned.has(radioId),
    airChange,
    air: change.air,
    measured,
    nothing: false,
    own,
    only: isFew ? own : null,
  };
}
