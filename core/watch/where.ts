import { inverseGeodesic } from "../geodesy";
import { figure, signedFigure } from "../words";
import { endOf, linkName, linksOn, radiosBySite, type Link, type Radio, type World } from "../plan";
import type { LinkAlarm } from "./alarms";
import type { CauseKind } from "./causes";
import { movedBy, turnLosing, type Offs } from "./turned";

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
  offs: Offs,
): string {
  const link = world.links.get(alarm.linkId);
  if (!link) return "";
  const near = all.filter((one) => Math.abs(one.raisedDay - alarm.raisedDay) <= TOGETHER_DAYS);
  if (alarm.kind === "noise") return noiseWords(world, link, alarm, near);
  if (!OF_AN_ANTENNA.has(alarm.causes[0]?.cause ?? "")) return "";
  if (alarm.radioId !== null) {
    const served = linksOn(world, alarm.radioId).length;
    return `; ${alarm.linkIds.length} of its ${served} links strayed together, so most likely it is its own antenna${moveWords(world, alarm.radioId, near, offs)}`;
  }
  const strayed = new Set(near.filter(({ kind }) => kind !== "noise").map(({ linkId }) => linkId));
  return link.kind === "access" ? customerWords(world, link, alarm, strayed) : bridgeWords(world, link, alarm, strayed);
}

/** Which way an access point moved, where its customers tell. */
function moveWords(world: World, radioId: string, near: readonly LinkAlarm[], offs: Offs): string {
  const changes = new Map(near.flatMap(({ linkId, changeDb }) => (changeDb === null ? [] : [[linkId, changeDb]])));
  const move = movedBy(world, radioId, changes, offs);
  if (!move) return "";
  const by = `by about ${figure(Math.abs(move.degrees), 0)}°`;
  if (move.kind === "tilted") return `, tilted ${by} ${move.degrees > 0 ? "downward" : "upward"}`;
  return `, turned ${by} ${move.degrees > 0 ? "clockwise" : "anticlockwise"} as seen from above`;
}

/** How far the antenna at an end must have turned to lose what was lost; empty where no turn does, or nothing was lost. */
function turnWords(world: World, radioId: string, { changeDb, causes }: LinkAlarm): string {
  if (changeDb === null || changeDb >= 0 || causes[0]?.cause !== "moved") return "";
  const degrees = turnLosing(endOf(world, radioId), -changeDb);
  return degrees === null ? "" : `: a turn of about ${figure(degrees, degrees < 5 ? 1 : 0)}° loses that much`;
}

/** One customer alone of many on an access point: then it is most likely his own antenna. */
function customerWords(
  world: World,
  { id, aRadioId, bRadioId }: Link,
  alarm: LinkAlarm,
  strayed: ReadonlySet<string>,
): string {
  const others = linksOn(world, aRadioId).filter((other) => other.id !== id);
  if (others.length < FEWEST_STEADY || others.some((other) => strayed.has(other.id))) return "";
  const { name } = world.radios.get(aRadioId)!;
  return `; nothing was raised of the ${others.length} others of ${name}, so most likely it is the end at ${endOf(world, bRadioId).placeName}${turnWords(world, bRadioId, alarm)}`;
}

/**
 * Levels of both directions fall alike whichever end of a bridge moves: what else stands on the two masts can tell, or the noise, which
 * changes where an antenna came to look elsewhere and stays where none moved.
 */
function bridgeWords(world: World, link: Link, alarm: LinkAlarm, strayed: ReadonlySet<string>): string {
  const [atA, atB] = [link.aRadioId, link.bRadioId].map((radioId) => {
    const { siteId } = world.radios.get(radioId)!;
    const links = [...world.links.values()].filter(
      ({ id, aRadioId, bRadioId }) =>
        id !== link.id &&
        siteId !== null &&
        [aRadioId, bRadioId].some((one) => world.radios.get(one)?.siteId === siteId),
    );
    return { radioId, place: endOf(world, radioId).placeName, strayed: links.filter(({ id }) => strayed.has(id)) };
  }) as [At, At];
  if (atA.strayed.length > 0 === atB.strayed.length > 0) return noiseTells([atA, atB], alarm, world);
  const at = atA.strayed.length > 0 ? atA : atB;
  const turn = turnWords(world, at.radioId, alarm);
  return `; ${linkName(world, at.strayed[0]!.id)} strayed with it, so begin at ${at.place}${turn}`;
}

/** Noise that changed by this much at one end, and by no more than half of it at the other, tells which of them looks elsewhere, dB. */
const NOISE_TELLS_DB = 1.5;

function noiseTells([atA, atB]: [At, At], alarm: LinkAlarm, world: World): string {
  const { a, b } = alarm.noiseChangeDb;
  const [more, less] = [Math.max(Math.abs(a), Math.abs(b)), Math.min(Math.abs(a), Math.abs(b))];
  if (more < NOISE_TELLS_DB || less > NOISE_TELLS_DB / 2) return "; levels do not tell which end moved";
  const [at, other, changeDb] = Math.abs(a) > Math.abs(b) ? [atA, atB, a] : [atB, atA, b];
  const turn = turnWords(world, at.radioId, alarm);
  return `; the noise at ${at.place} changed by ${signedFigure(changeDb)} dB with it and that at ${other.place} did not, so begin at ${at.place}${turn}`;
}
interface At {
  radioId: string;
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
