import { patternLossDb } from "../antenna";
import { inverseGeodesic, signedAngleDeg } from "../geodesy";
import { endOf, linksOn, type LinkEnd, type World } from "../plan";
import type { WatchedLink } from "./watched";

/** How an antenna moved: about its mast, clockwise as seen from above, or about its bracket, downward. Degrees. */
type Move = { kind: "turned" | "tilted"; degrees: number };

/** Moves that are tried, degrees to either side. */
const MOST_DEG = { turned: 45, tilted: 20 };
const STEP_DEG = 0.5;
/** Of so few links nothing is told. */
const FEWEST_LINKS = 3;
/** A link of which no alarm was raised may have changed by so much all the same, dB. */
const UNSEEN_DB = 2;
/** What a move may leave unexplained of a link, dB; any other kind of move must leave so much more. */
const MOST_LEFT_DB = 2;
const CLEARLY_DB = 0.7;

/** How far off each link's access point looks, by the ids of links; those that are left out are taken to lie level. */
export type Offs = ReadonlyMap<string, WatchedLink["offDeg"]>;

/**
 * How an access point's antenna moved. Turned, those customers lose who come to stand at the edge of its beam, and those gain who come
 * nearer to its middle; tilted, those near the mast gain where those far away lose, or the other way round. `changeDb` has what each
 * strayed link's level changed by; the others of the access point changed by little. Null where too few tell, where no move fits them,
 * or more than one does.
 */
export function movedBy(
  world: World,
  radioId: string,
  changeDb: ReadonlyMap<string, number>,
  offs: Offs = new Map(),
): Move | null {
  const { radio, antenna, place } = endOf(world, radioId);
  const links = linksOn(world, radioId);
  if (radio.azimuthDeg === null || links.length < FEWEST_LINKS) return null;
  const { azimuthDeg, polarization } = radio;
  const lossDb = (offDeg: number, upDeg: number) => patternLossDb(antenna, polarization, signedAngleDeg(offDeg), upDeg);
  const customers = links.map(({ id, bRadioId }) => {
    const offDeg = signedAngleDeg(inverseGeodesic(place, endOf(world, bRadioId).place).azimuthDeg - azimuthDeg);
    const upDeg = offs.get(id)?.a.elevationDeg ?? 0;
    const ahead = Math.cos((offDeg * Math.PI) / 180);
    return { offDeg, upDeg, ahead, beforeDb: lossDb(offDeg, upDeg), changeDb: changeDb.get(id) ?? null };
  });
  /** What a move leaves unexplained, root mean square, dB. */
  const left = ({ kind, degrees }: Move) => {
    const squares = customers.map(({ offDeg, upDeg, ahead, beforeDb, changeDb: told }) => {
      // A bracket that tips lowers what lies ahead of it, and nothing at its sides.
      const afterDb = kind === "turned" ? lossDb(offDeg - degrees, upDeg) : lossDb(offDeg, upDeg + degrees * ahead);
      const wouldDb = beforeDb - afterDb;
      const missDb = told === null ? Math.max(0, Math.abs(wouldDb) - UNSEEN_DB) : wouldDb - told;
      return missDb * missDb;
    });
    return Math.sqrt(squares.reduce((sum, square) => sum + square, 0) / squares.length);
  };
  const best = (kind: Move["kind"], side: 1 | -1) => {
    let found = { move: { kind, degrees: 0 }, leftDb: Infinity };
    for (let degrees = STEP_DEG; degrees <= MOST_DEG[kind]; degrees += STEP_DEG) {
      const move = { kind, degrees: side * degrees };
      const leftDb = left(move);
      if (leftDb < found.leftDb) found = { move, leftDb };
    }
    return found;
  };
  const [one, next] = [best("turned", 1), best("turned", -1), best("tilted", 1), best("tilted", -1)].sort(
    (x, y) => x.leftDb - y.leftDb,
  );
  return one!.leftDb <= MOST_LEFT_DB && next!.leftDb >= one!.leftDb + CLEARLY_DB ? one!.move : null;
}

/** By how far an antenna that looks at its mate must turn to lose so much, degrees; null where no turn does. */
export function turnLosing({ antenna, radio: { polarization } }: LinkEnd, lostDb: number): number | null {
  const aheadDb = patternLossDb(antenna, polarization, 0, 0);
  for (let degrees = STEP_DEG; degrees <= MOST_DEG.turned; degrees += STEP_DEG)
    if (patternLossDb(antenna, polarization, degrees, 0) - aheadDb >= lostDb) return degrees;
  return null;
}
