import type { Outsider } from "#core/plan";
import Feature from "ol/Feature";
import { Point } from "ol/geom";
import VectorLayer from "ol/layer/Vector";
import { fromLonLat } from "ol/proj";
import VectorSource from "ol/source/Vector";
import { outsiderStyle, type Palette } from "./styles";

/** Transmitters of others: marks to be seen and named under the pointer, never chosen. */
export function outsiderLayer(palette: Palette) {
  const source = new VectorSource();
  return {
    layer: new VectorLayer({ source }),
    show(outsiders: readonly Outsider[]) {
      source.clear();
      source.addFeatures(
        outsiders.map(({ name, latDeg, lonDeg, azimuthDeg }) => {
          const feature = new Feature({ geometry: new Point(fromLonLat([lonDeg, latDeg])), name });
          feature.setStyle(outsiderStyle(name, azimuthDeg, palette));
          return feature;
        }),
      );
    },
  };
}
