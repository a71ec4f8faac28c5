import { bracketReach } from "../aiming";
import { earsOf, listeningIn } from "../interference";
import { answerLink } from "../link";
import { isLinkServed, type ProfileSource } from "../outcome";
import { linkEnds, type World } from "../plan";
import { sectorCustomer } from "./customers";

/** What one tilt of a sector comes to. */
export interface TiltRow {
  /** Of the bracket; electrical tilt comes on top. */
  mechanicalDeg: number;
  customersServed: number;
  peopleServed: number;
  /** Smallest margin left of any customer whose path is known, dB; null without one. */
  weakestMarginDb: number | null;
}

const STEP_DEG = 0.5;
/** Nobody tilts a sector farther, degrees. */
const MOST_DEG = 15;

/**
 * Every tilt that a sector's bracket reaches, up to 15° either way, each with full path answers of all its customers in the noise
 * of now.
 */
export function tiltTable(world: World, radioId: string, between: ProfileSource): TiltRow[] {
  const links = [...world.links.values()].filter(({ kind, aRadioId }) => kind === "access" && aRadioId === radioId);
  const [first] = links;
  if (!first) return [];
  const { upDeg, downDeg } = bracketReach(linkEnds(world, first).a);
  const rows: TiltRow[] = [];
  for (let tilt = -Math.min(MOST_DEG, upDeg); tilt <= Math.min(MOST_DEG, downDeg) + 1e-9; tilt += STEP_DEG)
    rows.push({ mechanicalDeg: tilt, customersServed: 0, peopleServed: 0, weakestMarginDb: null });
  const hears = earsOf(listeningIn(world), between);
  for (const link of links) {
    const { a, b } = linkEnds(world, link);
    const heard = hears(link);
    const profile = between(a.place, b.place);
    for (const row of rows) {
      const tilted = { ...a, radio: { ...a.radio, tiltDownDeg: row.mechanicalDeg } };
      const { kind, foliageDepthM } = link;
      const answer = answerLink({ plan: world.plan, kind, foliageDepthM, a: tilted, b, heard, profile });
      const customer = sectorCustomer(world, link, answer);
      if (!customer) continue;
      if (isLinkServed(world, link, answer)) {
        row.customersServed++;
        row.peopleServed += customer.people;
      }
      row.weakestMarginDb = Math.min(row.weakestMarginDb ?? Infinity, customer.marginLeftDb);
    }
  }
  return rows;
}

/** The tilt that serves most people; among equals the one whose weakest customer keeps most, then the smallest. */
export function bestTilt(rows: readonly TiltRow[]): TiltRow | null {
  const worth = ({ weakestMarginDb }: TiltRow) => weakestMarginDb ?? -Infinity;
  return rows.reduce<TiltRow | null>((best, row) => {
    if (!best) return row;
    const more =
      row.peopleServed - best.peopleServed ||
      worth(row) - worth(best) ||
      Math.abs(best.mechanicalDeg) - Math.abs(row.mechanicalDeg);
    return more > 0 ? row : best;
  }, null);
}
