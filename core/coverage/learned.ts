import { z } from "zod";
import { areaAt, areaOfTerm, MOST_SCALED_DB, noiseCorrectionOf, noiseTerm, treesTerms, type Learned } from "../learn";
import { cellPlace, gridExtent, sideOf, type CellWindow, type CoverageGrid } from "./grid";
import type { SweptLosses } from "./sweep";

const decibels = z.number().min(-60).max(60);
/** By an area's numbers north and east. */
const inAreasSchema = z.array(z.tuple([z.number().int(), z.number().int(), decibels])).max(2000);
/** What readings taught, as far as it bears on the cells of one circle on one frequency. */
export const learnedOverSchema = z.object({
  everywhereDb: decibels,
  /** For each dB that the ground takes, that trees in leaf take, and that bare ones take. */
  groundShare: decibels,
  treesInLeafShare: decibels,
  treesBareShare: decibels,
  /** Areas with what holds for whoever is in them, and woods with what holds for each dB that trees take on the way through them. */
  areas: inAreasSchema,
  woods: inAreasSchema,
});
export type LearnedOver = z.infer<typeof learnedOverSchema>;

/** The part of a correction that a circle's cells can meet, outdoors; null where nothing was learned or it is switched off. */
export function learnedOver(learned: Learned | null, grid: CoverageGrid, frequencyGHz: number): LearnedOver | null {
  if (!learned?.isOn) return null;
  const valueOf = (key: string) => learned.terms.find((one) => one.key === key)?.value ?? 0;
  const [west, south, east, north] = gridExtent(grid);
  const [southmost] = areaAt(south, west);
  const [northmost] = areaAt(north, east);
  const { all, inLeaf, bare } = treesTerms(frequencyGHz);
  const inAreas = (isWanted: (key: string) => boolean) =>
    learned.terms.flatMap(({ key, value }): LearnedOver["areas"] => {
      const area = isWanted(key) ? areaOfTerm(key) : null;
      if (!area || area[0] < southmost || area[0] > northmost) return [];
      // Strips are the wider the nearer to a pole: at either edge of the circle's latitudes the area must be able to lie in it.
      const reaches = [south, north].some((latDeg) =>
        TURNS_DEG.some(
          (turnDeg) =>
            area[1] >= areaAt(latDeg, west + turnDeg)[1] - 1 && area[1] <= areaAt(latDeg, east + turnDeg)[1] + 1,
        ),
      );
      return reaches ? [[...area, value]] : [];
    });
  return {
    everywhereDb: valueOf("everywhere"),
    groundShare: valueOf("ground"),
    treesInLeafShare: valueOf(all) + valueOf(inLeaf),
    treesBareShare: valueOf(all) + valueOf(bare),
    areas: inAreas((key) => key.startsWith("area ")),
    woods: inAreas((key) => key.startsWith(`${all}, area `)),
  };
}

/** A circle astride of the 180th meridian has areas at either end of the numbers. */
const TURNS_DEG = [-360, 0, 360];

/** Lays what was learned over the losses of a window: what raises a level lowers the loss. */
export function withLearned(grid: CoverageGrid, losses: SweptLosses, learned: LearnedOver, window: CellWindow): void {
  const { lossDb, diffractionDb, treesDb } = losses;
  const { everywhereDb, groundShare, treesInLeafShare, treesBareShare } = learned;
  const side = sideOf(grid);
  const inArea = byArea(learned.areas);
  const inWood = byArea(learned.woods);
  for (let row = window.rows[0]; row < window.rows[1]; row++) {
    const { latDeg } = cellPlace(grid, 0, row);
    const strip = inArea.get(areaAt(latDeg, 0)[0]);
    for (let column = window.columns[0]; column < window.columns[1]; column++) {
      const cell = row * side + column;
      const trees = treesDb[cell]!;
      const groundDb = Math.min(MOST_SCALED_DB, diffractionDb[cell]! - trees);
      const ofAreaDb = strip ? (strip.get(areaAt(latDeg, cellPlace(grid, column, row).lonDeg)[1]) ?? 0) : 0;
      let treesShare = 0;
      if (trees > 0) {
        const inLeaf = losses.inLeafShare[cell]!;
        treesShare = treesInLeafShare * inLeaf + treesBareShare * (1 - inLeaf);
        if (inWood.size > 0) treesShare += ofWood(grid, inWood, column, row, losses.woodShare[cell]!);
      }
      lossDb[cell]! -= everywhereDb + ofAreaDb + groundShare * groundDb + treesShare * trees;
    }
  }
}

/** What holds in some areas, by their numbers north and then east. */
type ByArea = ReadonlyMap<number, ReadonlyMap<number, number>>;
function byArea(areas: LearnedOver["areas"]): ByArea {
  const strips = new Map<number, Map<number, number>>();
  for (const [north, east, value] of areas) strips.set(north, (strips.get(north) ?? new Map()).set(east, value));
  return strips;
}

/** What holds for the wood at a share of the way from the middle of a grid to one of its cells. */
function ofWood(grid: CoverageGrid, inWood: ByArea, column: number, row: number, share: number): number {
  const { rings } = grid;
  const { latDeg, lonDeg } = cellPlace(grid, rings + (column - rings) * share, rings + (row - rings) * share);
  const [north, east] = areaAt(latDeg, lonDeg);
  return inWood.get(north)?.get(east) ?? 0;
}

/**
 * What was learned of the noise at a customer in each cell, who by himself hears none above thermal, dB; null where nothing was learned on
 * that frequency, or it is switched off.
 */
export function learnedNoiseOver(
  learned: Learned | null,
  grid: CoverageGrid,
  frequencyGHz: number,
): Float32Array | null {
  if (!learned?.isOn || !learned.noise?.terms.some(({ key }) => key.startsWith(noiseTerm(frequencyGHz)))) return null;
  const side = sideOf(grid);
  const riseDb = new Float32Array(side * side);
  const ofArea = new Map<string, number>();
  for (let row = 0; row < side; row++) {
    let [north, east, areaDb] = [NaN, NaN, 0];
    for (let column = 0; column < side; column++) {
      const { latDeg, lonDeg } = cellPlace(grid, column, row);
      const area = areaAt(latDeg, lonDeg);
      if (area[0] !== north || area[1] !== east) {
        [north, east] = area;
        const key = area.join(" ");
        areaDb = ofArea.get(key) ?? Math.max(0, noiseCorrectionOf(learned, { frequencyGHz, latDeg, lonDeg })?.db ?? 0);
        ofArea.set(key, areaDb);
      }
      riseDb[row * side + column] = areaDb;
    }
  }
  return riseDb;
}
