import { gridExtent, sideOf, type CoverageGrid } from "#core/coverage";
import { contours } from "d3-contour";
import { boundsOf, figuresOf, type Layer } from "./paint";
import type { Painted } from "./useCells";

/** A figure of every cell as a GeoTIFF of 32-bit floats on WGS 84; cells without one are not a number. */
export async function geotiffOf(grid: CoverageGrid, figures: Float32Array): Promise<ArrayBuffer> {
  const { writeArrayBuffer } = await import("geotiff");
  const side = sideOf(grid);
  const [west, , , north] = gridExtent(grid);
  return writeArrayBuffer(figures, {
    width: side,
    height: side,
    SamplesPerPixel: 1,
    BitsPerSample: [32],
    SampleFormat: [3],
    ModelPixelScale: [grid.cellLonDeg, grid.cellLatDeg, 0],
    ModelTiepoint: [0, 0, 0, west, north, 0],
    GTModelTypeGeoKey: 2,
    GTRasterTypeGeoKey: 1,
    GeographicTypeGeoKey: 4326,
    GDAL_NODATA: "nan",
  } as never) as ArrayBuffer;
}

/** A line along which a layer has one figure, in longitudes and latitudes. */
export interface ContourLine {
  value: number;
  rings: [lonDeg: number, latDeg: number][][];
}

/** Contour lines at the steps of a layer; `why` has none. */
export function contourLines(layer: Layer, painted: Painted): ContourLine[] {
  const { grid } = painted;
  const side = sideOf(grid);
  const [west, , , north] = gridExtent(grid);
  const figures = figuresOf(layer, painted);
  // Cells without a figure lie under every step.
  const values = Array.from(figures, (value) => (Number.isNaN(value) ? LEAST : value));
  return contours()
    .size([side, side])
    .thresholds(boundsOf(layer, painted))(values)
    .map(({ value, coordinates }) => ({
      value,
      rings: coordinates.flatMap((polygon) =>
        polygon.map((ring) =>
          ring.map(([x, y]): [number, number] => [west + x! * grid.cellLonDeg, north - y! * grid.cellLatDeg]),
        ),
      ),
    }));
}
const LEAST = -1e4;

/** The same as GeoJSON, a feature for each step. */
export function contoursGeoJson(layer: Layer, painted: Painted, unit: string): string {
  return JSON.stringify({
    type: "FeatureCollection",
    features: contourLines(layer, painted).map(({ value, rings }) => ({
      type: "Feature",
      properties: { value, unit },
      geometry: { type: "MultiLineString", coordinates: rings },
    })),
  });
}

const escaped = (text: string) =>
  text.replace(/[&<>"]/g, (letter) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[letter]!);

/** A picture of a grid laid over the ground, as KMZ. */
export async function overlayKmz(name: string, grid: CoverageGrid, canvas: HTMLCanvasElement): Promise<Uint8Array> {
  const { zipSync, strToU8 } = await import("fflate");
  const blob = await new Promise<Blob>((resolve, reject) =>
    canvas.toBlob((made) => (made ? resolve(made) : reject(new Error("the picture cannot be made"))), "image/png"),
  );
  const [west, south, east, north] = gridExtent(grid);
  const kml = `<?xml version="1.0" encoding="UTF-8"?>
<kml xmlns="http://www.opengis.net/kml/2.2"><Document><name>${escaped(name)}</name><GroundOverlay><name>${escaped(name)}</name><Icon><href>overlay.png</href></Icon><LatLonBox><north>${north}</north><south>${south}</south><east>${east}</east><west>${west}</west></LatLonBox></GroundOverlay></Document></kml>
`;
  return zipSync({ "doc.kml": strToU8(kml), "overlay.png": new Uint8Array(await blob.arrayBuffer()) });
}
