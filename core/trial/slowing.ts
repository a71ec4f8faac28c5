import { endOf, radiosTouched, type Link, type Patch, type World } from "../plan";
import { channelsMeet } from "../spectrum";
import type { Trial } from "./trial";

/** Links that are asked, those nearest to what changes: in a large network all of them would take minutes. */
const MOST_ASKED = 200;

/**
 * How many other links run slower after a change: of those on channels near to where the touched radios then stand, the
 * `MOST_ASKED` nearest are answered before and after. Links in `besideIds` do not count.
 */
export function slowedCount(
  before: Trial,
  after: Trial,
  patches: readonly Patch[],
  besideIds: ReadonlySet<string>,
): number {
  return nearLinks(after.world, patches).filter(({ id }) => {
    if (!before.world.links.has(id) || besideIds.has(id)) return false;
    const [now, then] = [before.rates(id), after.rates(id)];
    return then.downMbps < now.downMbps || then.upMbps < now.upMbps;
  }).length;
}

/** Links that may hear what some patches touch, nearest first. */
function nearLinks(then: World, patches: readonly Patch[]): Link[] {
  const touched = radiosTouched([then], patches);
  const moved = [...touched].filter((id) => then.radios.has(id)).map((id) => endOf(then, id));
  const [first] = moved;
  if (!first) return [];
  const shrink = Math.cos((first.place.latDeg * Math.PI) / 180);
  const found = [...then.links.values()].flatMap((link) => {
    if (touched.has(link.aRadioId) || touched.has(link.bRadioId)) return [];
    const ends = [endOf(then, link.aRadioId), endOf(then, link.bRadioId)];
    const near = moved.flatMap(({ radio, place }) =>
      ends
        .filter((end) => channelsMeet(radio, end.radio))
        .map((end) => Math.hypot(end.place.latDeg - place.latDeg, (end.place.lonDeg - place.lonDeg) * shrink)),
    );
    return near.length > 0 ? [{ link, far: Math.min(...near) }] : [];
  });
  return found
    .sort((x, y) => x.far - y.far)
    .slice(0, MOST_ASKED)
    .map(({ link }) => link);
}
