import type { Outsider } from "#core/plan";
import Feature from "ol/Feature";
import { Point } from "ol/geom";
import VectorLayer from "ol/layer/Vector";
import VectorSource from "ol/source/Vector";
import type { Projection } from "./projection";
import { outsiderStyle, type Palette } from "./styles";

/** Transmitters of others: marks to be seen and named under the pointer, never chosen. */
export function outsiderLayer(palette: Palette, { project }: Projection) {
  const source = new VectorSource();
  return {
    layer: new VectorLayer({ source }),
    show(outsiders: readonly Outsider[]) {
      source.clear();
      source.addFeatures(
        outsiders.map((outsider) => {
          const { name, azimuthDeg } = outsider;
          const feature = new Feature({ geometry: new Point(project(outsider)), name });
          feature.setStyle(outsiderStyle(name, azimuthDeg, palette));
          return feature;
        }),
      );
    },
  };
}
