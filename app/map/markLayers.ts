import Feature from "ol/Feature";
import { LineString, Point } from "ol/geom";
import VectorLayer from "ol/layer/Vector";
import VectorSource from "ol/source/Vector";
import type { Place } from "#core/geodesy";
import type { Projection } from "./projection";
import { cursorStyle, heatStyle, measureStyle, type Palette } from "./styles";
import type { HeatMark } from "./types";

/** Marks that come and go: under the plan how good places would be, over it the cursor and what is measured. */
export function markLayers(palette: Palette, { project }: Projection) {
  const heatSource = new VectorSource();
  const overSource = new VectorSource();
  /** Puts a mark over the plan in place of the one before. */
  const putOver = (over: "cursor" | "measure", feature: Feature | null) => {
    for (const one of overSource.getFeatures()) if (one.get("over") === over) overSource.removeFeature(one);
    if (!feature) return;
    feature.set("over", over);
    overSource.addFeature(feature);
  };
  const dressed = (geometry: Point | LineString, style: Parameters<Feature["setStyle"]>[0]) => {
    const feature = new Feature({ geometry });
    feature.setStyle(style);
    return feature;
  };
  return {
    under: new VectorLayer({ source: heatSource }),
    over: new VectorLayer({ source: overSource }),
    showCursor: (place: Place | null) =>
      putOver("cursor", place && dressed(new Point(project(place)), cursorStyle(palette))),
    showHeat: (points: readonly HeatMark[]) => {
      heatSource.clear();
      heatSource.addFeatures(points.map((point) => dressed(new Point(project(point)), heatStyle(point, palette))));
    },
    showMeasure: (ends: [Place, Place] | null) =>
      putOver("measure", ends && dressed(new LineString(ends.map(project)), measureStyle(palette))),
  };
}
