import { bracketReach } from "../aiming";
import { hearingAt, listeningIn } from "../interference";
import { answerLink } from "../link";
import { isLinkServed, type ProfileSource } from "../outcome";
import { endOf, linkEnds, linksOn, type Link, type LinkEnd, type Radio, type World } from "../plan";
import { sectorCustomer } from "./customers";

/** What a sector comes to as it might stand. */
export interface Stand {
  customersServed: number;
  peopleServed: number;
  /** Smallest margin left of any customer whose path is known, dB; null without one. */
  weakestMarginDb: number | null;
}

/** What one tilt of a sector comes to. */
export interface TiltRow extends Stand {
  /** Of the bracket; electrical tilt comes on top. */
  mechanicalDeg: number;
}

/** What one heading of a sector comes to. */
export interface HeadingRow extends Stand {
  azimuthDeg: number;
}

const STEP_DEG = 0.5;
/** Nobody tilts a sector farther, degrees. */
const MOST_DEG = 15;
const HEADING_STEP_DEG = 2;

/**
 * Each of some ways to stand with full path answers of all the sector's customers. What the sector hears of the plan's other transmitters
 * it hears as it would then stand; its customers hear what they hear now.
 */
export function tried<Row>(
  world: World,
  radioId: string,
  ways: readonly Row[],
  standing: (way: Row) => Pick<LinkEnd, "radio" | "antenna">,
  between: ProfileSource,
): (Row & Stand)[] {
  const links = customerLinks(world, radioId);
  const [first] = links;
  if (!first) return ways.map((way) => ({ ...way, customersServed: 0, peopleServed: 0, weakestMarginDb: null }));
  const listening = listeningIn(world);
  const trial = { ...world, radios: new Map(world.radios) };
  const rows = ways.map((way) => {
    const stood = standing(way);
    trial.radios.set(radioId, stood.radio);
    const heard = hearingAt({ ...listening, world: trial }, first, radioId, between).noise;
    return { way, stood, heard, customersServed: 0, peopleServed: 0, weakestMarginDb: null as number | null };
  });
  for (const link of links) {
    const { a, b } = linkEnds(world, link);
    const heardFar = hearingAt(listening, link, link.bRadioId, between).noise;
    const profile = between(a.place, b.place);
    const { kind, foliageDepthM } = link;
    for (const row of rows) {
      const heard = { a: row.heard, b: heardFar };
      const answer = answerLink({
        ...{ plan: world.plan, kind, foliageDepthM, heard, profile },
        ...{ a: { ...a, ...row.stood }, b },
      });
      const customer = sectorCustomer(world, link, answer);
      if (!customer) continue;
      if (isLinkServed(world, link, answer)) {
        row.customersServed++;
        row.peopleServed += customer.people;
      }
      row.weakestMarginDb = Math.min(row.weakestMarginDb ?? Infinity, customer.marginLeftDb);
    }
  }
  return rows.map(({ way, customersServed, peopleServed, weakestMarginDb }) => ({
    ...way,
    ...{ customersServed, peopleServed, weakestMarginDb },
  }));
}

/** A sector with its own antenna and something else about it. */
function turned<Row>(world: World, radioId: string, change: (way: Row) => Partial<Radio>) {
  const { radio, antenna } = endOf(world, radioId);
  return (way: Row) => ({ radio: { ...radio, ...change(way) }, antenna });
}

export const customerLinks = (world: World, radioId: string): Link[] =>
  linksOn(world, radioId).filter(({ kind }) => kind === "access");

/** Every tilt that a sector's bracket reaches, up to 15° either way; none without customers. */
export function tiltTable(world: World, radioId: string, between: ProfileSource): TiltRow[] {
  const [first] = customerLinks(world, radioId);
  if (!first) return [];
  const { upDeg, downDeg } = bracketReach(linkEnds(world, first).a);
  const ways: { mechanicalDeg: number }[] = [];
  for (let tilt = -Math.min(MOST_DEG, upDeg); tilt <= Math.min(MOST_DEG, downDeg) + 1e-9; tilt += STEP_DEG)
    ways.push({ mechanicalDeg: tilt });
  return tried(
    world,
    radioId,
    ways,
    turned(world, radioId, ({ mechanicalDeg: tiltDownDeg }) => ({ tiltDownDeg })),
    between,
  );
}

/** Every second degree of heading of a sector; none without customers. */
export function headingTable(world: World, radioId: string, between: ProfileSource): HeadingRow[] {
  if (customerLinks(world, radioId).length === 0) return [];
  const ways = Array.from({ length: 360 / HEADING_STEP_DEG }, (_, i) => ({ azimuthDeg: i * HEADING_STEP_DEG }));
  return tried(
    world,
    radioId,
    ways,
    turned(world, radioId, ({ azimuthDeg }) => ({ azimuthDeg })),
    between,
  );
}

/** The row that serves most people; among equals the one whose weakest customer keeps most, then the one with least of `effort`. */
function bestOf<Row extends Stand>(rows: readonly Row[], effort: (row: Row) => number): Row | null {
  const worth = ({ weakestMarginDb }: Row) => weakestMarginDb ?? -Infinity;
  return rows.reduce<Row | null>((best, row) => {
    if (!best) return row;
    const more = row.peopleServed - best.peopleServed || worth(row) - worth(best) || effort(best) - effort(row);
    return more > 0 ? row : best;
  }, null);
}

export const bestTilt = (rows: readonly TiltRow[]): TiltRow | null =>
  bestOf(rows, ({ mechanicalDeg }) => Math.abs(mechanicalDeg));

export const bestHeading = (rows: readonly HeadingRow[]): HeadingRow | null => bestOf(rows, () => 0);
