import type { Place } from "#core/geodesy";
import OlMap from "ol/Map";
import View from "ol/View";
import { defaults as defaultControls, ScaleLine } from "ol/control";
import { boundingExtent, isEmpty } from "ol/extent";
import TileLayer from "ol/layer/Tile";
import "ol/ol.css";
import { fromLonLat, transformExtent } from "ol/proj";
import { groundLayers } from "./groundLayers";
import { userTiles } from "./userTiles";
import { projectionAround } from "./projection";
import { coverageLayer } from "./coverageLayer";
import { frontLayer } from "./frontLayer";
import { outsiderLayer } from "./outsiderLayer";
import type { HeatMark, MapContour, Outlining, PlanMapProps, Ring } from "./types";
import { linkLayer } from "./linkLayer";
import { markLayers } from "./markLayers";
import { placeLayer } from "./placeLayer";
import { pointing, type PointingEvents } from "./pointing";
import { reliefSource } from "./relief";
import { paletteOf } from "./styles";

export interface MapView {
  draw(things: Pick<PlanMapProps, "sites" | "subscribers" | "links" | "selected">): void;
  drawGround(things: Pick<PlanMapProps, "areas" | "overlays" | "density" | "selected">): void;
  /** Lets clicks draw an outline, or ends that. */
  setOutlining(outlining: Outlining | null): void;
  showCursor(place: Place | null): void;
  showOutsiders(outsiders: NonNullable<PlanMapProps["outsiders"]>): void;
  showFronts(fronts: NonNullable<PlanMapProps["fronts"]>): void;
  showHeat(points: readonly HeatMark[]): void;
  showCoverage(coverage: PlanMapProps["coverage"]): void;
  showContours(contours: readonly MapContour[]): void;
  showMeasure(ends: [Place, Place] | null): void;
  fit(): void;
  fitPlaces(places: Place[]): void;
  centre(): Place;
  pickCentre(): void;
  pointCentre(): void;
  menuAtCentre(): void;
  stop(): void;
}

interface Events extends PointingEvents {
  reshaped(id: string, rings: Ring[]): void;
}

/** Builds the map in an element: relief from the plan's terrain, links, glyphs, and the overlays of cursor and measure. */
export async function createMapView(
  element: HTMLElement,
  planId: string,
  terrain: PlanMapProps["terrain"],
  shown: Place[],
  events: Events,
  tiles: { url: string; attribution: string } | null,
): Promise<MapView> {
  const dark = document.documentElement.dataset.theme === "dark";
  const palette = paletteOf(document.documentElement);
  const middleDeg = terrain ? (terrain.extent[0] + terrain.extent[2]) / 2 : (shown[0]?.lonDeg ?? 0);
  const projection = projectionAround(middleDeg);
  const { project } = projection;
  const places = placeLayer(palette, projection);
  const links = linkLayer(palette, projection);
  places.crowd.onGathered(links.gathered);
  const marks = markLayers(palette, projection);
  const ground = groundLayers(palette, projection, events.reshaped);
  const coverage = coverageLayer(palette, projection);
  const outsiders = outsiderLayer(palette, projection);
  const fronts = frontLayer(palette, projection);
  const layers = [
    ...coverage.layers,
    ...ground.layers,
    marks.under,
    links.layer,
    fronts.layer,
    outsiders.layer,
    places.crowd.layer,
    places.layer,
    marks.over,
  ];

  const extent = terrain
    ? transformExtent(terrain.extent, "EPSG:4326", "EPSG:3857")
    : boundingExtent(shown.length > 0 ? shown.map(project) : [fromLonLat([-20, -40]), fromLonLat([20, 40])]);
  const relief = terrain
    ? await reliefSource(planId, terrain.version, dark, (terrain.extent[1] + terrain.extent[3]) / 2)
    : null;
  const map = new OlMap({
    target: element,
    layers: [
      ...(relief ? [new TileLayer({ source: relief.source, preload: 1 })] : []),
      ...(tiles ? [userTiles(tiles)] : []),
      ...layers,
    ],
    controls: defaultControls({ attribution: tiles !== null, rotate: false, zoom: true }).extend([new ScaleLine()]),
    view: new View({ center: [0, 0], zoom: 2, maxZoom: 21, enableRotation: false }),
    keyboardEventTarget: element,
  });
  const fit = () =>
    map.getView().fit(isEmpty(extent) ? transformExtent([-180, -60, 180, 70], "EPSG:4326", "EPSG:3857") : extent, {
      padding: [6, 6, 6, 6],
      maxZoom: 15,
    });
  fit();
  ground.attach(map);

  const pointer = pointing(
    map,
    element,
    { places, links, named: outsiders.layer, isOutlining: ground.isOutlining },
    events,
  );
  const { showCursor, showHeat, showMeasure } = marks;
  const { centre, pickCentre, pointCentre, menuAtCentre } = pointer;
  return {
    draw({ selected, links: drawn, ...rest }) {
      links.draw(drawn, selected?.kind === "link" ? selected.id : null);
      places.draw({ ...rest, selected });
    },
    drawGround: (things) => ground.draw(things),
    setOutlining: (outlining) => ground.setOutlining(map, outlining),
    ...{ showCursor, showHeat, showMeasure },
    showOutsiders: (given) => outsiders.show(given),
    showFronts: (given) => fronts.show(given),
    showContours: (contours) => coverage.showContours(contours),
    showCoverage: (given) => coverage.show(given),
    fit,
    fitPlaces(given) {
      if (given.length === 0) return;
      map.getView().fit(boundingExtent(given.map(project)), { padding: [40, 40, 40, 40], maxZoom: 15 });
    },
    ...{ centre, pickCentre, pointCentre, menuAtCentre },
    stop() {
      pointer.stop();
      relief?.stop();
      map.setTarget(undefined);
    },
  };
}
