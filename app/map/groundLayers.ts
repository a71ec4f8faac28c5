import Collection from "ol/Collection";
import Feature from "ol/Feature";
import GeoJSON from "ol/format/GeoJSON";
import type OlMap from "ol/Map";
import { Polygon } from "ol/geom";
import Draw from "ol/interaction/Draw";
import Modify from "ol/interaction/Modify";
import VectorLayer from "ol/layer/Vector";
import { toLonLat, transformExtent } from "ol/proj";
import VectorSource from "ol/source/Vector";
import { fromExtent } from "ol/geom/Polygon";
import type { Projection } from "./projection";
import { areaStyle, densityStyle, drawStyle, overlayStyle, type Palette } from "./styles";
import type { Outlining, PlanMapProps, Ring } from "./types";

/** Corners are kept to a tenth of a metre. */
const rounded = (deg: number) => Math.round(deg * 1e6) / 1e6;
const unprojectRing = (ring: number[][]): Ring =>
  ring.map((at) => {
    const [lon, lat] = toLonLat(at);
    return [rounded(lon!), rounded(lat!)];
  });

/** What lies on the ground: outlines of cover, which can be drawn and reshaped, the user's overlays, and density. */
export function groundLayers(
  palette: Palette,
  { projectLonLat }: Projection,
  reshaped: (id: string, rings: Ring[]) => void,
) {
  const projectRing = (ring: Ring) => ring.map(projectLonLat);
  const density = new VectorSource();
  const overlays = new VectorSource();
  const areas = new VectorSource();
  const chosen = new Collection<Feature>();
  const modify = new Modify({ features: chosen, style: drawStyle(palette) });
  modify.on("modifyend", () => {
    const [feature] = chosen.getArray();
    if (!feature) return;
    reshaped(feature.get("id") as string, (feature.getGeometry() as Polygon).getCoordinates().map(unprojectRing));
  });
  let draw: Draw | null = null;
  // What was drawn last is not drawn again: twenty thousand footprints stay as they are while a link is dragged.
  let drawn: Pick<PlanMapProps, "areas" | "overlays" | "density"> = {};
  const areaFeatures = new Map<string, Feature>();
  return {
    layers: [
      new VectorLayer({ source: density, opacity: 0.75 }),
      new VectorLayer({ source: overlays }),
      new VectorLayer({ source: areas }),
    ],
    attach: (map: OlMap) => map.addInteraction(modify),
    isOutlining: () => draw !== null,
    setOutlining(map: OlMap, outlining: Outlining | null) {
      if (draw) map.removeInteraction(draw);
      draw = null;
      if (!outlining) return;
      const { onCorners, onDrawn } = outlining;
      const finish = () => draw?.finishDrawing();
      draw = new Draw({ type: "Polygon", style: drawStyle(palette) });
      draw.on("drawstart", ({ feature }) => {
        onCorners(1, finish);
        feature.getGeometry()!.on("change", ({ target }) => {
          // The ring holds the corners, the pointer, and its first corner once more.
          onCorners((target as Polygon).getCoordinates()[0]!.length - 2, finish);
        });
      });
      draw.on("drawend", ({ feature }) =>
        onDrawn(unprojectRing((feature.getGeometry() as Polygon).getCoordinates()[0]!)),
      );
      map.addInteraction(draw);
    },
    draw({
      areas: outlines = [],
      overlays: texts = [],
      density: cells = [],
      selected,
    }: Pick<PlanMapProps, "areas" | "overlays" | "density" | "selected">) {
      if (drawn.areas !== outlines) {
        areas.clear();
        areaFeatures.clear();
        for (const { id, name, kind, rings } of outlines) {
          const feature = new Feature({
            geometry: new Polygon(rings.map(projectRing)),
            kind: "area",
            id,
            name: name || kind,
            cover: kind,
          });
          feature.setStyle(areaStyle(kind, false, palette));
          areas.addFeature(feature);
          areaFeatures.set(id, feature);
        }
      }
      for (const feature of chosen.getArray())
        feature.setStyle(areaStyle(feature.get("cover") as string, false, palette));
      chosen.clear();
      const pick = selected?.kind === "area" ? areaFeatures.get(selected.id) : undefined;
      if (pick) {
        pick.setStyle(areaStyle(pick.get("cover") as string, true, palette));
        chosen.push(pick);
      }
      if (drawn.overlays !== texts) {
        overlays.clear();
        const format = new GeoJSON({ featureProjection: "EPSG:3857" });
        for (const text of texts)
          for (const feature of format.readFeatures(text)) {
            feature.setStyle(overlayStyle(feature.get("name") as string | undefined, palette));
            overlays.addFeature(feature);
          }
      }
      if (drawn.density !== cells) {
        density.clear();
        const most = Math.max(1, ...cells.map(({ count }) => count));
        for (const cell of cells) {
          const extent = transformExtent(
            [cell.westDeg, cell.southDeg, cell.eastDeg, cell.northDeg],
            "EPSG:4326",
            "EPSG:3857",
          );
          const feature = new Feature(fromExtent(extent));
          feature.setStyle(densityStyle(cell.count, most, palette));
          density.addFeature(feature);
        }
      }
      drawn = { areas: outlines, overlays: texts, density: cells };
    },
  };
}
