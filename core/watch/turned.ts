import { patternLossDb } from "../antenna";
import { inverseGeodesic, signedAngleDeg } from "../geodesy";
import { endOf, linksOn, type World } from "../plan";

/** Turns that are tried, degrees to either side. */
const MOST_DEG = 45;
const STEP_DEG = 0.5;
/** Of so few links nothing is told. */
const FEWEST_LINKS = 3;
/** A link of which no alarm was raised may have changed by so much all the same, dB. */
const UNSEEN_DB = 2;
/** What a turn may leave unexplained of a link, dB; a turn the other way must leave so much more. */
const MOST_LEFT_DB = 2;
const CLEARLY_DB = 1;

/**
 * By how many degrees an access point's antenna turned, clockwise as seen from above: those customers lose who come to stand at the
 * edge of its beam, and those gain who come nearer to its middle. `changeDb` has what each strayed link's level changed by; the others
 * of the access point changed by little. Null where too few tell, where no turn fits them, or one to either side does.
 */
export function turnedDeg(world: World, radioId: string, changeDb: ReadonlyMap<string, number>): number | null {
  const { radio, antenna, place } = endOf(world, radioId);
  const links = linksOn(world, radioId);
  if (radio.azimuthDeg === null || links.length < FEWEST_LINKS) return null;
  const { azimuthDeg, polarization } = radio;
  const customers = links.map(({ id, bRadioId }) => {
    const offDeg = signedAngleDeg(inverseGeodesic(place, endOf(world, bRadioId).place).azimuthDeg - azimuthDeg);
    return { offDeg, beforeDb: patternLossDb(antenna, polarization, offDeg, 0), changeDb: changeDb.get(id) ?? null };
  });
  /** What a turn leaves unexplained, root mean square, dB. */
  const left = (turn: number) => {
    const squares = customers.map(({ offDeg, beforeDb, changeDb: told }) => {
      const wouldDb = beforeDb - patternLossDb(antenna, polarization, signedAngleDeg(offDeg - turn), 0);
      const missDb = told === null ? Math.max(0, Math.abs(wouldDb) - UNSEEN_DB) : wouldDb - told;
      return missDb * missDb;
    });
    return Math.sqrt(squares.reduce((sum, square) => sum + square, 0) / squares.length);
  };
  const best = (side: 1 | -1) => {
    let [turn, leftDb] = [0, Infinity];
    for (let degrees = STEP_DEG; degrees <= MOST_DEG; degrees += STEP_DEG) {
      const now = left(side * degrees);
      if (now < leftDb) [turn, leftDb] = [side * degrees, now];
    }
    return { turn, leftDb };
  };
  const [one, other] = [best(1), best(-1)].sort((x, y) => x.leftDb - y.leftDb) as [Fit, Fit];
  return one.leftDb <= MOST_LEFT_DB && other.leftDb >= one.leftDb + CLEARLY_DB ? one.turn : null;
}
interface Fit {
  turn: number;
  leftDb: number;
}
