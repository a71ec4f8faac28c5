import type { Place } from "../geodesy";
import { hearingOver, listeningIn, type KnownProfile } from "../interference";
import { beamTowardDb, raisedByDb, type OwnNoise } from "../link";
import { endOf, type Radio, type World } from "../plan";
import { AHEAD, clientEnd, type ClientKit, type LossTable, type TableNoise } from "./budget";
import { cellPlace, sideOf, type CoverageGrid } from "./grid";

/** Noise beyond what a table of tapes reckons with. */
export interface CellNoise {
  /** At the customer of each cell, dB; not a number where nobody asked what he hears. Null where nothing more is heard anywhere. */
  downRiseDb: Float32Array | null;
  /** At the sector, dB. */
  upRiseDb: number;
}

/** What was learned of the noise at each cell's customer, and on top of it what he hears, as one rise; null where neither is known. */
export function downRise(
  noise: TableNoise,
  learnedDb: Float32Array | null,
  heardDbm: Float32Array | null,
): Float32Array | null {
  if (!heardDbm) return learnedDb;
  return heardDbm.map((heard, cell) => {
    const learned = learnedDb === null ? 0 : learnedDb[cell]!;
    return learned + raisedByDb(heard, noise.dbm + learned);
  });
}

/**
 * By how much a sector's noise rises through what it hears of the plan's other transmitters, dB. A receive beam is taken to hear all of
 * that as if it stood where the beam looks: what it spares differs from customer to customer.
 */
export function sectorRiseDb(world: World, sector: Radio, { upNoise }: LossTable, heard: OwnNoise | null): number {
  if (heard?.dbm === null || heard === null) return 0;
  return raisedByDb(heard.dbm + beamTowardDb(endOf(world, sector.id), AHEAD), upNoise.dbm);
}

/**
 * What a customer of a sector hears of the plan's other transmitters wherever he stands. Throws RangeError where the library lacks his kit.
 */
export function customerHears(
  world: World,
  sector: Radio,
  kit: ClientKit,
  profileBetween: KnownProfile,
): (place: Place) => OwnNoise {
  const far = clientEnd(world, sector, kit);
  return hearingOver(listeningIn(world), { aRadioId: sector.id, bRadioId: far.radio.id }, far, profileBetween);
}

/** The sum of that in some cells, on one chain, dBm; −Infinity where he hears nobody. */
export function heardInCells(
  hears: (place: Place) => OwnNoise,
  grid: CoverageGrid,
  cells: readonly number[],
): Float32Array {
  const side = sideOf(grid);
  return Float32Array.from(
    cells,
    (cell) => hears(cellPlace(grid, cell % side, Math.floor(cell / side))).dbm ?? -Infinity,
  );
}

/** Cells between the places that are asked first, and between the closest that are. */
const WIDEST_CELLS = 16;
const CLOSEST_CELLS = 2;
/** The closest spacing when many sectors are asked about. */
const CLOSEST_COARSE_CELLS = 8;
/** Between corners that hear as much as this nobody asks more closely, dB. */
const ALIKE_DB = 1;
/** Interference this far under thermal noise counts as equal at all corners: it adds a tenth of a decibel, dB. */
const UNDER_NOISE_DB = 15;
/** Interference is taken as at least this far under thermal noise: there it adds a hundredth of a decibel, dB. */
const LEAST_UNDER_NOISE_DB = 25;

/** A square of cells, by its corners. */
interface Square {
  west: number;
  east: number;
  north: number;
  south: number;
}

/**
 * What a customer in each cell hears of the plan's other transmitters: asked at places as far apart as they hear alike, and laid out in
 * between. Only cells where `isWanted` are asked about. Who asks takes `asked`, gives the answers to `take`, and asks again until
 * nothing is left.
 */
export class HeardField {
  private readonly known: Float32Array;
  private readonly side: number;
  private readonly closestCells: number;

  constructor(
    grid: CoverageGrid,
    /** Thermal noise at the customer, dBm. */
    private readonly thermalDbm: number,
    isCoarse = false,
  ) {
    this.closestCells = isCoarse ? CLOSEST_COARSE_CELLS : CLOSEST_CELLS;
    this.side = sideOf(grid);
    this.known = new Float32Array(this.side ** 2).fill(NaN);
  }

  /** Cells that should be asked next, the coarse ones first. */
  asked(isWanted: (cell: number) => boolean): number[] {
    const cells = new Set<number>();
    for (const square of this.squares(isWanted))
      for (const cell of this.corners(square)) if (Number.isNaN(this.known[cell]!)) cells.add(cell);
    return [...cells];
  }

  /** Puts down what is heard at some cells, dBm; −Infinity where nothing is. */
  take(cells: readonly number[], heardDbm: ArrayLike<number>): void {
    const leastDbm = this.thermalDbm - LEAST_UNDER_NOISE_DB;
    cells.forEach((cell, i) => (this.known[cell] = Math.max(leastDbm, heardDbm[i]!)));
  }

  /** What is heard in every cell as far as it is known, evenly between the corners of each square; not a number elsewhere. */
  laidOut(isWanted: (cell: number) => boolean): Float32Array {
    const field = new Float32Array(this.known.length).fill(NaN);
    for (const square of this.squares(isWanted)) this.layOut(square, field);
    return field;
  }

  /** The smallest squares with something wanted in them, as far as their corners are known; of one whose corners are not, itself. */
  private squares(isWanted: (cell: number) => boolean): Square[] {
    const { side } = this;
    const found: Square[] = [];
    const within = (square: Square) => {
      if (!this.hasWanted(square, isWanted)) return;
      if (square.east - square.west <= this.closestCells || this.isAlike(square)) {
        found.push(square);
        return;
      }
      const { west, east, north, south } = square;
      const [middle, centre] = [(west + east) >> 1, (north + south) >> 1];
      for (const [w, e] of [
        [west, middle],
        [middle, east],
      ] as const)
        for (const [n, s] of [
          [north, centre],
          [centre, south],
        ] as const)
          if (e > w && s > n) within({ west: w, east: e, north: n, south: s });
    };
    for (let north = 0; north < side - 1; north += WIDEST_CELLS)
      for (let west = 0; west < side - 1; west += WIDEST_CELLS)
        within({
          ...{ west, east: Math.min(west + WIDEST_CELLS, side - 1) },
          ...{ north, south: Math.min(north + WIDEST_CELLS, side - 1) },
        });
    return found;
  }

  private corners({ west, east, north, south }: Square): [number, number, number, number] {
    const { side } = this;
    return [north * side + west, north * side + east, south * side + west, south * side + east];
  }

  private hasWanted({ west, east, north, south }: Square, isWanted: (cell: number) => boolean): boolean {
    for (let row = north; row <= south; row++)
      for (let column = west; column <= east; column++) if (isWanted(row * this.side + column)) return true;
    return false;
  }

  /** Whether a square need not be cut: its corners hear alike, or one of them is not known yet. */
  private isAlike(square: Square): boolean {
    let [least, most] = [Infinity, -Infinity];
    for (const cell of this.corners(square)) {
      const dbm = Math.max(this.known[cell]!, this.thermalDbm - UNDER_NOISE_DB);
      if (Number.isNaN(dbm)) return true;
      if (dbm < least) least = dbm;
      if (dbm > most) most = dbm;
    }
    return most - least <= ALIKE_DB;
  }

  private layOut(square: Square, into: Float32Array): void {
    const { west, east, north, south } = square;
    const [northWest, northEast, southWest, southEast] = this.corners(square).map((cell) => this.known[cell]!) as [
      number,
      number,
      number,
      number,
    ];
    for (let row = north; row <= south; row++) {
      const down = (row - north) / (south - north);
      const first = northWest + (southWest - northWest) * down;
      const last = northEast + (southEast - northEast) * down;
      for (let column = west; column <= east; column++)
        into[row * this.side + column] = first + ((last - first) * (column - west)) / (east - west);
    }
  }
}
