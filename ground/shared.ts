import {
  HOLE,
  tileArrays,
  tilesAcross,
  tilesDown,
  UNREAD,
  type CoverArea,
  type GridFrame,
  type Surface,
  type TerrainLayer,
} from "#core/terrain";

/** Tiles that are unpacked at most over one raster, 147 KB each; pages of memory are taken only as they fill. */
const MOST_SLOTS = 2048;

/** The tiles of one raster as they are stored, on memory that all threads share, and the arrays into which they are unpacked. */
export interface SharedSurface {
  surface: Surface;
  /** The packed tiles one after another, and where each ends, from the first tile on; a missing one ends where it begins. */
  packed: Uint8Array;
  ends: Float64Array;
  /** One number: slots of the arrays that are taken. */
  taken: Int32Array;
}

/** One raster of a plan's ground. */
export interface SharedRaster {
  kind: TerrainLayer["kind"];
  whole: SharedSurface;
  /** A coarse copy of a large raster. */
  overview: SharedSurface | null;
}

/** A plan's ground as plain data: handed to another thread, it is not copied. */
export interface SharedGround {
  /** Of cells of one size the raster that goes first stands first. */
  rasters: readonly SharedRaster[];
  areas: readonly CoverArea[];
}

export interface PackedTile {
  index: number;
  data: Uint8Array;
}

const shared = (bytes: number) => new SharedArrayBuffer(bytes);

/** Lays packed tiles on shared memory; none of them is unpacked yet. */
export function shareTiles(frame: GridFrame, tiles: readonly PackedTile[]): SharedSurface {
  const count = tilesAcross(frame) * tilesDown(frame);
  const packed = new Uint8Array(shared(tiles.reduce((sum, { data }) => sum + data.length, 0)));
  const ends = new Float64Array(shared(count * 8));
  const at = new Map(tiles.map(({ index, data }) => [index, data]));
  let end = 0;
  for (let index = 0; index < count; index++) {
    const data = at.get(index);
    if (data) packed.set(data, end);
    end += data?.length ?? 0;
    ends[index] = end;
  }
  return emptied({ packed, ends }, frame);
}

/** The same tiles with nothing unpacked. */
export function emptied({ packed, ends }: Pick<SharedSurface, "packed" | "ends">, frame: GridFrame): SharedSurface {
  const tiles = ends.reduce((count, end, index) => count + Number(end > startOf(ends, index)), 0);
  const surface = tileArrays(frame, Math.min(tiles, MOST_SLOTS), HOLE, shared);
  for (let index = 0; index < ends.length; index++)
    if (ends[index]! > startOf(ends, index)) surface.starts[index] = UNREAD;
  return { surface, packed, ends, taken: new Int32Array(shared(4)) };
}

/** Where a packed tile begins. */
export const startOf = (ends: Float64Array, index: number): number => (index === 0 ? 0 : ends[index - 1]!);
