import { RasterError } from "./error";

const NORTH_UP = "Resample it north-up and bring it again.";

/** Where a raster's cells lie in its coordinate system. */
interface TiffPlace {
  /** Outer corner of the first cell of the northernmost row. */
  west: number;
  north: number;
  cellX: number;
  cellY: number;
  /** The file's first row is its southernmost. */
  isSouthUp: boolean;
}

/** A row of a transformation that only moves and stretches has nothing beside its own axis, but for rounding. */
const TURNED_SHARE = 1e-9;

/**
 * The place of a raster from its tags: a transformation, or one tie point with the size of a cell, wherever in the raster the tie
 * point stands. Throws RasterError for what is turned, mirrored east to west, or held by control points alone.
 */
export function placeOf(
  tags: { tiepoint?: ArrayLike<number>; scale?: ArrayLike<number>; transformation?: ArrayLike<number> },
  { rows, isPoint }: { rows: number; isPoint: boolean },
): TiffPlace {
  let x: number;
  let y: number;
  let stepX: number;
  let stepY: number;
  const { tiepoint, scale, transformation } = tags;
  if (transformation && transformation.length >= 16) {
    const m = Array.from(transformation);
    [stepX, stepY, x, y] = [m[0]!, m[5]!, m[3]!, m[7]!];
    if (Math.abs(m[1]!) > TURNED_SHARE * Math.abs(stepX) || Math.abs(m[4]!) > TURNED_SHARE * Math.abs(stepY))
      throw new RasterError(
        `the GeoTIFF's rows are turned against east (${m[1]} and ${m[4]} beside steps of ${stepX} and ${stepY}); rows that run east were expected`,
        { todo: NORTH_UP },
      );
  } else if (tiepoint && tiepoint.length >= 6 && scale && scale.length >= 2) {
    if (tiepoint.length > 6)
      throw new RasterError(
        `the GeoTIFF is held by ${tiepoint.length / 6} control points; one point and a scale were expected`,
        { todo: NORTH_UP },
      );
    [stepX, stepY] = [scale[0]!, -scale[1]!];
    x = tiepoint[3]! - tiepoint[0]! * stepX;
    y = tiepoint[4]! - tiepoint[1]! * stepY;
  } else
    throw new RasterError(
      "the GeoTIFF does not say where its cells lie; a point with a scale, or a transformation, was expected",
    );
  if (isPoint) {
    x -= stepX / 2;
    y -= stepY / 2;
  }
  if (![stepX, stepY, x, y].every((figure) => Number.isFinite(figure)))
    throw new RasterError("the GeoTIFF does not say where it lies: a figure of its place or of its cells is no number");
  if (!(stepX > 0 && stepY !== 0))
    throw new RasterError(
      `the GeoTIFF's cells measure ${stepX} by ${stepY} from ${x}, ${y}; steps to the east were expected`,
      { todo: NORTH_UP },
    );
  const isSouthUp = stepY > 0;
  return { west: x, north: isSouthUp ? y + rows * stepY : y, cellX: stepX, cellY: Math.abs(stepY), isSouthUp };
}
