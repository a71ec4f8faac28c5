import { destination, type Place } from "#core/geodesy";
import type { Front } from "#core/mast";
import Feature from "ol/Feature";
import { Polygon } from "ol/geom";
import VectorLayer from "ol/layer/Vector";
import VectorSource from "ol/source/Vector";
import { Stroke, Style } from "ol/style";
import type { Projection } from "./projection";
import type { Palette } from "./styles";

/** A few metres are seen only from so near. */
const FROM_ZOOM = 17.5;
const STEP_DEG = 10;

/** The outline of what lies within some metres of an antenna over the angle that it looks into. */
function outline({ place, headingDeg, widthDeg, publicM }: Front): Place[] {
  const at = (deg: number): Place => destination(place, deg, publicM);
  const half = headingDeg === null ? 180 : widthDeg / 2;
  const steps = Math.max(2, Math.ceil((2 * half) / STEP_DEG));
  const rim = Array.from({ length: steps + 1 }, (_, i) => at((headingDeg ?? 0) - half + (2 * half * i) / steps));
  return headingDeg === null ? rim : [place, ...rim, place];
}

/** How far the public keeps away from the fronts of the antennas, to scale. */
export function frontLayer(palette: Palette, { project }: Projection) {
  const source = new VectorSource();
  const style = new Style({
    stroke: new Stroke({ color: palette.resolve("var(--blocked)"), lineDash: [4, 3], width: 1.5 }),
  });
  return {
    layer: new VectorLayer({ source, minZoom: FROM_ZOOM, style }),
    show(fronts: readonly Front[]) {
      source.clear();
      source.addFeatures(fronts.map((one) => new Feature(new Polygon([outline(one).map(project)]))));
    },
  };
}
