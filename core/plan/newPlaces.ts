import type { Place } from "../geodesy";
import { startOf } from "./facts";
import { LONGEST_NAME, type Site, type Subscriber } from "./kinds";

const PLACE_STEPS_PER_DEG = 1e6;
/** A coordinate to a tenth of a metre: finer says nothing about where a mast stands. */
export const toPlaceStep = (deg: number) => Math.round(deg * PLACE_STEPS_PER_DEG) / PLACE_STEPS_PER_DEG;

/** A name that nobody has yet: "Site 3" after "Site 1" and "Site 2". A long word gives way to its number. */
export function freeName(taken: Iterable<{ name: string }>, word: string): string {
  const names = new Set([...taken].map(({ name }) => name.toLowerCase()));
  for (let number = 1; ; number++) {
    const name = `${word.slice(0, LONGEST_NAME - 1 - String(number).length)} ${number}`;
    if (!names.has(name.toLowerCase())) return name;
  }
}

type NewPlace = { id: string; planId: string; name: string } & Place;

/** A place of which nothing is known but where it lies. */
const placed = ({ latDeg, lonDeg }: Place) => ({ latDeg: toPlaceStep(latDeg), lonDeg: toPlaceStep(lonDeg) });

/** A site of which nothing is known but its place: the usual stands in the rest until somebody says otherwise. */
export const newSite = (own: NewPlace & Partial<Site>): Site =>
  ({ ...startOf("sites"), ...own, ...placed(own) }) as Site;

/** A mast that Tejado proposes on high ground, with a power of its own. */
export function newMast(
  planId: string,
  id: string,
  name: string,
  point: Place,
  heightM: number,
  power: Site["power"] = "solar",
): Site {
  return newSite({
    ...{ id, planId, name, latDeg: point.latDeg, lonDeg: point.lonDeg, structureKind: "new mast", power },
    ...{ structureHeightM: heightM, poleDiameterMm: 60, notes: "Proposed by Tejado; nobody has been there." },
  });
}

/** A customer of whom nothing is known but the place. */
export const newSubscriber = (own: NewPlace & Partial<Subscriber>): Subscriber =>
  ({ ...startOf("subscribers"), ...own, ...placed(own) }) as Subscriber;
