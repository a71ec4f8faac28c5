import Feature from "ol/Feature";
import { MultiLineString } from "ol/geom";
import ImageLayer from "ol/layer/Image";
import VectorLayer from "ol/layer/Vector";
import { fromLonLat } from "ol/proj";
import ImageCanvasSource from "ol/source/ImageCanvas";
import VectorSource from "ol/source/Vector";
import { Fill, Stroke, Style, Text } from "ol/style";
import { figure } from "#core/words";
import type { Projection } from "./projection";
import type { Palette } from "./styles";
import type { MapContour, PlanMapProps } from "./types";

/**
 * A raster over the relief, even in latitude and longitude. Over a circle of some ten kilometres Mercator's stretch within the raster is
 * less than a cell: its corners are placed, and what lies between them evenly.
 */
export function coverageLayer(palette: Palette, { projectLonLat }: Projection) {
  let shown: PlanMapProps["coverage"] = null;
  const source = new ImageCanvasSource({
    projection: "EPSG:3857",
    ratio: 1,
    canvasFunction: (extent, resolution, pixelRatio, [width, height]) => {
      const canvas = document.createElement("canvas");
      canvas.width = Math.round(width!);
      canvas.height = Math.round(height!);
      if (!shown) return canvas;
      const context = canvas.getContext("2d")!;
      const [west, south, east, north] = shown.extent;
      // Its middle lies on the map's side of the 180th meridian, and its edges beside that.
      const [middle, bottom] = projectLonLat([(west + east) / 2, south]);
      const [, top] = projectLonLat([east, north]);
      const half = fromLonLat([(east - west) / 2, 0])[0]!;
      const [left, right] = [middle! - half, middle! + half];
      const scale = pixelRatio / resolution;
      context.imageSmoothingEnabled = false;
      context.drawImage(
        shown.canvas,
        (left - extent[0]!) * scale,
        (extent[3]! - top!) * scale,
        (right - left) * scale,
        (top! - bottom!) * scale,
      );
      return canvas;
    },
  });
  const lines = new VectorSource();
  return {
    layers: [new ImageLayer({ source }), new VectorLayer({ source: lines, declutter: true })],
    showContours(contours: readonly MapContour[]) {
      lines.clear();
      for (const { value, rings } of contours) {
        const text = figure(value, 0);
        const style = new Style({
          stroke: new Stroke({ color: palette.ink, width: 0.8 }),
          text: new Text({
            text,
            placement: "line",
            font: "10px 'Atkinson Hyperlegible Mono Variable', monospace",
            fill: new Fill({ color: palette.ink }),
            stroke: new Stroke({ color: palette.panel, width: 3 }),
          }),
        });
        const feature = new Feature(new MultiLineString(rings.map((ring) => ring.map(projectLonLat))));
        feature.setStyle(style);
        lines.addFeature(feature);
      }
    },
    show(coverage: PlanMapProps["coverage"]) {
      shown = coverage;
      source.changed();
    },
  };
}
