import type { LinkAnswer } from "../link";
import { endOf, radiosTouched, type Link, type Patch, type World } from "../plan";
import { channelsMeet } from "../spectrum";
import { answering, type ProfileSource } from "./outcome";

/** Links that are asked, those nearest to what changes: in a large network all of them would take minutes. */
const MOST_ASKED = 200;

/**
 * How many links beside some run slower under patches: of those on channels near to where the touched radios then stand, the
 * `MOST_ASKED` nearest are answered before and after.
 */
export function slowing(
  world: World,
  besideIds: ReadonlySet<string>,
  between: ProfileSource,
): (then: World, patches: readonly Patch[]) => number {
  const answerNow = answering(world, between);
  const known = new Map<string, [down: number, up: number]>();
  const rates = ({ path }: LinkAnswer): [number, number] => [path?.aToB.rateMbps ?? 0, path?.bToA.rateMbps ?? 0];
  const ratesNow = (link: Link) => {
    const now = known.get(link.id) ?? rates(answerNow(link));
    known.set(link.id, now);
    return now;
  };
  return (then, patches) => {
    const answerThen = answering(then, between);
    return nearLinks(then, patches).filter((link) => {
      const now = world.links.get(link.id);
      if (!now || besideIds.has(link.id)) return false;
      const [[downNow, upNow], [down, up]] = [ratesNow(now), rates(answerThen(link))];
      return down < downNow || up < upNow;
    }).length;
  };
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
