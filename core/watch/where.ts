import { inverseGeodesic } from "../geodesy";
import { endOf, linkName, linksOn, radiosBySite, type Link, type Radio, type World } from "../plan";
import type { LinkAlarm } from "./alarms";
import type { CauseKind } from "./causes";
import { turnedDeg } from "./turned";

/** Alarms that were raised so many days apart at most can have one reason. */
const TOGETHER_DAYS = 4;
/** Of so many neighbours nothing must have been raised until that says anything. */
const FEWEST_STEADY = 2;
/** So many others are named at most. */
const MOST_NAMED = 2;
/** Causes that lie in one antenna. */
const OF_AN_ANTENNA: ReadonlySet<string> = new Set<CauseKind>(["moved", "polarization", "ice"]);

/**
 * What the links beside a strayed one tell of where the reason lies, in words that go on after what strayed: which end's antenna it is, or
 * from where a noise comes. Empty where they tell nothing. `radioId` is the access point at the root, or null.
 */
export function whereWords(
  world: World,
  alarm: LinkAlarm & { radioId: string | null; linkIds: readonly string[] },
  all: readonly LinkAlarm[],
): string {
  const link = world.links.get(alarm.linkId);
  if (!link) return "";
  const near = all.filter((one) => Math.abs(one.raisedDay - alarm.raisedDay) <= TOGETHER_DAYS);
  if (alarm.kind === "noise") return noiseWords(world, link, alarm, near);
  if (!OF_AN_ANTENNA.has(alarm.causes[0]?.cause ?? "")) return "";
  if (alarm.radioId !== null) {
    const served = linksOn(world, alarm.radioId).length;
    return `; ${alarm.linkIds.length} of its ${served} links strayed together, so most likely it is its own antenna${turnWords(world, alarm.radioId, near)}`;
  }
  const strayed = new Set(near.filter(({ kind }) => kind !== "noise").map(({ linkId }) => linkId));
  return link.kind === "access" ? customerWords(world, link, strayed) : bridgeWords(world, link, strayed);
}

/** Which way an access point turned, where its customers tell. */
function turnWords(world: World, radioId: string, near: readonly LinkAlarm[]): string {
  const changes = new Map(near.flatMap(({ linkId, changeDb }) => (changeDb === null ? [] : [[linkId, changeDb]])));
  const turn = turnedDeg(world, radioId, changes);
  if (turn === null) return "";
  const way = turn > 0 ? "clockwise" : "anticlockwise";
  return `, turned by about ${Math.abs(turn).toFixed(0)}° ${way} as seen from above`;
}

/** One customer alone of many on an access point: then it is most likely his own antenna. */
function customerWords(world: World, { id, aRadioId, bRadioId }: Link, strayed: ReadonlySet<string>): string {
  const others = linksOn(world, aRadioId).filter((other) => other.id !== id);
  if (others.length < FEWEST_STEADY || others.some((other) => strayed.has(other.id))) return "";
  const { name } = world.radios.get(aRadioId)!;
  return `; nothing was raised of the ${others.length} others of ${name}, so most likely it is the end at ${endOf(world, bRadioId).placeName}`;
}

/** Levels of both directions fall alike whichever end of a bridge moves: only what else stands on the two masts can tell. */
function bridgeWords(world: World, link: Link, strayed: ReadonlySet<string>): string {
  const [atA, atB] = [link.aRadioId, link.bRadioId].map((radioId) => {
    const { siteId } = world.radios.get(radioId)!;
    const links = [...world.links.values()].filter(
      ({ id, aRadioId, bRadioId }) =>
        id !== link.id &&
        siteId !== null &&
        [aRadioId, bRadioId].some((one) => world.radios.get(one)?.siteId === siteId),
    );
    return { place: endOf(world, radioId).placeName, strayed: links.filter(({ id }) => strayed.has(id)) };
  }) as [At, At];
  if (atA.strayed.length > 0 === atB.strayed.length > 0) return "; levels do not tell which end moved";
  const at = atA.strayed.length > 0 ? atA : atB;
  return `; ${linkName(world, at.strayed[0]!.id)} strayed with it, so begin at ${at.place}`;
}
interface At {
  place: string;
  strayed: Link[];
}

/** Where a radio listens, degrees true. */
function looksDeg(world: World, { id, azimuthDeg }: Radio, mateId: string): number {
  if (azimuthDeg !== null) return azimuthDeg;
  return inverseGeodesic(endOf(world, id).place, endOf(world, mateId).place).azimuthDeg;
}

/** From where a noise comes: who hears it and looks where, and at whom beside him none was raised. */
function noiseWords(
  world: World,
  link: Link,
  { side: told, radioId }: LinkAlarm & { radioId: string | null },
  near: readonly LinkAlarm[],
): string {
  const side = radioId === null ? told : "a";
  if (side === null) return "";
  const [ownId, mateId] = side === "a" ? [link.aRadioId, link.bRadioId] : [link.bRadioId, link.aRadioId];
  const own = world.radios.get(ownId)!;
  const said = (radio: Radio, mate: string) =>
    `${radio.name}, which looks ${looksDeg(world, radio, mate).toFixed(0)}° true`;
  const words = ` at ${said(own, mateId)}`;
  if (own.siteId === null) return words;
  const hears = new Set(
    near
      .filter(({ kind }) => kind === "noise")
      .flatMap((one) => {
        const other = world.links.get(one.linkId);
        return other && one.side !== null ? [one.side === "a" ? other.aRadioId : other.bRadioId] : [];
      }),
  );
  const beside = (radiosBySite(world).get(own.siteId) ?? []).flatMap((radio) => {
    const own = linksOn(world, radio.id)[0] ?? [...world.links.values()].find(({ bRadioId }) => bRadioId === radio.id);
    if (radio.id === ownId || !own) return [];
    return [{ radio, mate: own.aRadioId === radio.id ? own.bRadioId : own.aRadioId }];
  });
  const named = (some: typeof beside) =>
    some
      .slice(0, MOST_NAMED)
      .map(({ radio, mate }) => said(radio, mate))
      .join(" and ");
  const too = beside.filter(({ radio }) => hears.has(radio.id));
  const not = beside.filter(({ radio }) => !hears.has(radio.id));
  return `${words}${too.length > 0 ? `, and at ${named(too)}` : ""}${not.length > 0 ? `; none was raised at ${named(not)}` : ""}`;
}
