import type { Place } from "#core/geodesy";
import Feature, { type FeatureLike } from "ol/Feature";
import OlMap from "ol/Map";
import View from "ol/View";
import { defaults as defaultControls, ScaleLine } from "ol/control";
import { boundingExtent, isEmpty } from "ol/extent";
import { LineString, Point } from "ol/geom";
import Translate from "ol/interaction/Translate";
import TileLayer from "ol/layer/Tile";
import VectorLayer from "ol/layer/Vector";
import "ol/ol.css";
import { fromLonLat, toLonLat, transformExtent } from "ol/proj";
import VectorSource from "ol/source/Vector";
import type Style from "ol/style/Style";
import { groundLayers } from "./groundLayers";
import { userTiles } from "./userTiles";
import { projectionAround } from "./projection";
import { coverageLayer } from "./coverageLayer";
import { crowdLayer } from "./crowd";
import { frontLayer } from "./frontLayer";
import { outsiderLayer } from "./outsiderLayer";
import type { HeatMark, MapContour, MapLink, MapPick, MapSite, Outlining, PlanMapProps, Ring } from "./types";
import { reliefSource } from "./relief";
import { cursorStyle, heatStyle, linkStyles, measureStyle, paletteOf, siteStyle, subscriberStyle } from "./styles";

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

interface Events {
  pick(pick: MapPick | null): void;
  hover(place: Place | null, name: string | null): void;
  pathHover(share: number | null): void;
  measureAt(place: Place, final: boolean): void;
  isMeasuring(): boolean;
  reshaped(id: string, rings: Ring[]): void;
  /** Whether a click hands over its place instead of choosing what stands there. */
  isPointing(): boolean;
  pointAt(place: Place, pick: MapPick | null): void;
  menuAt(place: Place, at: [leftPx: number, topPx: number], pick: MapPick | null): void;
  moved(pick: MapPick, place: Place): void;
}

const unproject = (coordinate: number[]): Place => {
  const [lonDeg, latDeg] = toLonLat(coordinate);
  return { latDeg: latDeg!, lonDeg: lonDeg! };
};
const PICK_TOLERANCE_PX = 7;
/** Distance from the selected path within which the pointer moves the shared cursor. */
const PATH_HOVER_PX = 14;
/** How long a finger rests to ask about a point. */
const LONG_PRESS_MS = 600;
const STILL_PX = 2;
/** How long after a click another one may come and count as the second of a double click. */
const DOUBLE_CLICK_MS = 600;

/** Whether a link looks as it did: of ten thousand a change draws few anew. */
const isDrawnAlike = (x: MapLink | undefined, y: MapLink): boolean =>
  x !== undefined &&
  x.from.latDeg === y.from.latDeg &&
  x.from.lonDeg === y.from.lonDeg &&
  x.to.latDeg === y.to.latDeg &&
  x.to.lonDeg === y.to.lonDeg &&
  x.state === y.state &&
  x.proof === y.proof &&
  x.cutShare === y.cutShare &&
  x.inHand === y.inHand &&
  x.label === y.label &&
  x.subscriberId === y.subscriberId;

/** Builds the map in an element: relief from the plan's terrain, links, glyphs, and the overlays of cursor and measure. */
export async function createMapView(
  element: HTMLElement,
  planId: string,
  terrain: PlanMapProps["terrain"],
  places: Place[],
  events: Events,
  tiles: { url: string; attribution: string } | null,
): Promise<MapView> {
  const dark = document.documentElement.dataset.theme === "dark";
  const palette = paletteOf(document.documentElement);
  const middleDeg = terrain ? (terrain.extent[0] + terrain.extent[2]) / 2 : (places[0]?.lonDeg ?? 0);
  const projection = projectionAround(middleDeg);
  const { project } = projection;
  const linkSource = new VectorSource();
  const thingSource = new VectorSource();
  const overSource = new VectorSource();
  const heatSource = new VectorSource();
  const things = new VectorLayer({ source: thingSource, declutter: false });
  const crowd = crowdLayer(palette, (member) => glyphs.get(`subscriber ${String(member.get("id"))}`)!.style(false));
  const linkLayer = new VectorLayer({ source: linkSource });
  const ground = groundLayers(palette, projection, events.reshaped);
  const coverage = coverageLayer(palette, projection);
  const outsiders = outsiderLayer(palette, projection);
  const fronts = frontLayer(palette, projection);
  const layers = [
    ...coverage.layers,
    ...ground.layers,
    new VectorLayer({ source: heatSource }),
    linkLayer,
    fronts.layer,
    outsiders.layer,
    crowd.layer,
    things,
    new VectorLayer({ source: overSource }),
  ];

  const extent = terrain
    ? transformExtent(terrain.extent, "EPSG:4326", "EPSG:3857")
    : boundingExtent(places.length > 0 ? places.map(project) : [fromLonLat([-20, -40]), fromLonLat([20, 40])]);
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

  const pickOf = (feature: FeatureLike): MapPick => ({
    kind: feature.get("kind") as MapPick["kind"],
    id: feature.get("id") as string,
  });
  const featureAt = (pixel: number[]): FeatureLike | null => {
    let found: FeatureLike | null = null;
    map.forEachFeatureAtPixel(
      pixel,
      (drawn) => {
        const feature = crowd.single(drawn);
        if (!feature.get("kind")) return undefined;
        found ??= feature;
        // A place wins over the line that ends at it, and both over the ground they stand on.
        if (feature.get("kind") === "area") return undefined;
        if (found?.get("kind") === "area") found = feature;
        if (feature.get("kind") !== "link") {
          found = feature;
          return true;
        }
        return undefined;
      },
      { hitTolerance: PICK_TOLERANCE_PX },
    );
    return found;
  };

  const nameAt = (pixel: number[], feature: FeatureLike | null): string | null =>
    ((feature?.get("name") ??
      map.forEachFeatureAtPixel(pixel, (one) => one.get("name") as string | undefined, {
        layerFilter: (layer) => layer === outsiders.layer,
      })) as string | undefined) ?? null;

  let laidOut: Partial<Pick<PlanMapProps, "sites" | "subscribers">> = {};
  let chosenPlace: string | null = null;
  const glyphs = new Map<string, { feature: Feature<Point>; style: (chosen: boolean) => Style[] }>();
  const addPlace = (
    kind: "site" | "subscriber",
    { id, name, place }: MapSite,
    style: (chosen: boolean) => Style[],
    more: object = {},
  ) => {
    const feature = new Feature({ geometry: new Point(project(place)), kind, id, name, ...more });
    feature.setStyle(style(false));
    glyphs.set(`${kind} ${id}`, { feature, style });
  };
  /** Whoever is chosen stands among the things, on top and alone. */
  const setChosen = (key: string | null, isChosen: boolean) => {
    const glyph = glyphs.get(key ?? "");
    if (!glyph) return;
    glyph.feature.setStyle(glyph.style(isChosen));
    if (glyph.feature.get("kind") !== "subscriber") return;
    crowd.setOut(glyph.feature, isChosen);
    if (isChosen) thingSource.addFeature(glyph.feature);
    else thingSource.removeFeature(glyph.feature);
  };
  /** Chooses what stands at a pixel; a plate opens instead, and what lies under it is chosen where it lies free. */
  const choose = (pixel: number[], pick: MapPick | null) => {
    const together = map.forEachFeatureAtPixel(pixel, (one) => crowd.extentOf(one) ?? undefined);
    if (together && pick?.kind !== "site")
      map.getView().fit(together, { padding: [60, 60, 60, 60], maxZoom: 17, duration: 200 });
    else events.pick(pick);
  };
  let laidLinks: PlanMapProps["links"] | null = null;
  let chosenLink: string | null = null;
  const lines = new Map<string, { link: MapLink; line: LineString; feature: Feature }>();
  /** Customers who are drawn together: their links would be a thicket, and are drawn where they stand alone. */
  let together: ReadonlySet<string> = new Set();
  const dress = ({ link, line, feature }: { link: MapLink; line: LineString; feature: Feature }) => {
    const isChosen = link.id === chosenLink;
    const isHidden = !isChosen && !link.inHand && link.subscriberId !== null && together.has(link.subscriberId);
    feature.setStyle(isHidden ? [] : linkStyles(link, line, isChosen, palette));
  };
  crowd.onGathered((now) => {
    const before = together;
    together = now;
    for (const one of lines.values()) {
      const { subscriberId } = one.link;
      if (subscriberId !== null && before.has(subscriberId) !== now.has(subscriberId)) dress(one);
    }
  });
  let selectedLine: LineString | null = null;
  let pointedAtMs = -Infinity;
  map.on("click", (event) => {
    if (ground.isOutlining()) return;
    const feature = featureAt(event.pixel);
    const pick = feature ? pickOf(feature) : null;
    if (!events.isMeasuring() && !events.isPointing()) return choose(event.pixel, pick);
    pointedAtMs = performance.now();
    if (events.isMeasuring()) events.measureAt(unproject(event.coordinate), true);
    else events.pointAt(unproject(event.coordinate), pick);
  });
  // A second click on what was just put or measured does not zoom the plan away from under it.
  map.on("dblclick", () => performance.now() - pointedAtMs > DOUBLE_CLICK_MS);
  const menuAt = (pixel: number[]) => {
    const feature = featureAt(pixel);
    const place = unproject(map.getCoordinateFromPixel(pixel));
    events.menuAt(place, [pixel[0]!, pixel[1]!], feature ? pickOf(feature) : null);
  };
  element.addEventListener("contextmenu", (event) => {
    event.preventDefault();
    menuAt(map.getEventPixel(event));
  });
  // Some phones send no context menu for a finger that rests.
  let rest: ReturnType<typeof setTimeout> | undefined;
  element.addEventListener("pointerdown", (event) => {
    clearTimeout(rest);
    if (event.pointerType === "touch") rest = setTimeout(() => menuAt(map.getEventPixel(event)), LONG_PRESS_MS);
  });
  element.addEventListener("pointermove", ({ movementX, movementY }) => {
    if (Math.hypot(movementX, movementY) >= STILL_PX) clearTimeout(rest);
  });
  for (const end of ["pointerup", "pointercancel"] as const) element.addEventListener(end, () => clearTimeout(rest));
  // Only what is chosen is taken along: a map that is moved must move nothing that stands on it.
  const dragging = new Translate({
    filter: (feature) =>
      !events.isPointing() && `${String(feature.get("kind"))} ${String(feature.get("id"))}` === chosenPlace,
    layers: [things],
    hitTolerance: PICK_TOLERANCE_PX,
  });
  dragging.on("translateend", ({ features }) => {
    const feature = features.item(0);
    if (feature) events.moved(pickOf(feature), unproject((feature.getGeometry() as Point).getCoordinates()));
  });
  map.addInteraction(dragging);
  map.on("pointermove", (event) => {
    if (event.dragging) return;
    const feature = featureAt(event.pixel);
    element.style.cursor = events.isMeasuring() || events.isPointing() ? "crosshair" : feature ? "pointer" : "";
    events.hover(unproject(event.coordinate), nameAt(event.pixel, feature));
    if (!selectedLine) return;
    const [start, end] = selectedLine.getCoordinates() as [number[], number[]];
    const on = selectedLine.getClosestPoint(event.coordinate);
    const onPixel = map.getPixelFromCoordinate(on);
    const near = Math.hypot(onPixel[0]! - event.pixel[0]!, onPixel[1]! - event.pixel[1]!) < PATH_HOVER_PX;
    const length = Math.hypot(end[0]! - start[0]!, end[1]! - start[1]!);
    events.pathHover(near && length > 0 ? Math.hypot(on[0]! - start[0]!, on[1]! - start[1]!) / length : null);
  });
  element.addEventListener("pointerleave", () => {
    events.hover(null, null);
    events.pathHover(null);
  });

  return {
    draw({ sites, subscribers, links, selected }) {
      const linkBefore = chosenLink;
      chosenLink = selected?.kind === "link" ? selected.id : null;
      if (laidLinks !== links) {
        laidLinks = links;
        const gone = new Map(lines);
        const fresh: Feature[] = [];
        for (const link of links) {
          if (isDrawnAlike(lines.get(link.id)?.link, link)) {
            gone.delete(link.id);
            continue;
          }
          const line = new LineString([project(link.from), project(link.to)]);
          const feature = new Feature({ geometry: line, kind: "link", id: link.id, name: link.label });
          const one = { link, line, feature };
          lines.set(link.id, one);
          dress(one);
          fresh.push(feature);
        }
        for (const [id, one] of gone) {
          linkSource.removeFeature(one.feature);
          if (lines.get(id) === one) lines.delete(id);
        }
        linkSource.addFeatures(fresh);
      }
      if (linkBefore !== chosenLink)
        for (const id of [linkBefore, chosenLink]) {
          const one = lines.get(id ?? "");
          if (one) dress(one);
        }
      selectedLine = lines.get(chosenLink ?? "")?.line ?? null;
      // Ten thousand places are laid out once; choosing one dresses two of them anew.
      if (laidOut.sites !== sites || laidOut.subscribers !== subscribers) {
        laidOut = { sites, subscribers };
        glyphs.clear();
        for (const one of subscribers)
          addPlace("subscriber", one, (on) => subscriberStyle(one.linked, on, palette), { linked: one.linked });
        for (const one of sites) addPlace("site", one, (on) => siteStyle(one.name, on, palette));
        const all = [...glyphs.values()].map(({ feature }) => feature);
        thingSource.clear();
        thingSource.addFeatures(all.filter((feature) => feature.get("kind") === "site"));
        crowd.put(all.filter((feature) => feature.get("kind") === "subscriber"));
        chosenPlace = null;
      }
      const key = selected ? `${selected.kind} ${selected.id}` : null;
      if (key === chosenPlace) return;
      setChosen(chosenPlace, false);
      setChosen(key, true);
      chosenPlace = key;
    },
    drawGround: (things) => ground.draw(things),
    setOutlining: (outlining) => ground.setOutlining(map, outlining),
    showCursor(place) {
      for (const feature of overSource.getFeatures())
        if (feature.get("over") === "cursor") overSource.removeFeature(feature);
      if (!place) return;
      const feature = new Feature({ geometry: new Point(project(place)), over: "cursor" });
      feature.setStyle(cursorStyle(palette));
      overSource.addFeature(feature);
    },
    showHeat(points) {
      heatSource.clear();
      heatSource.addFeatures(
        points.map((point) => {
          const feature = new Feature({ geometry: new Point(project(point)) });
          feature.setStyle(heatStyle(point, palette));
          return feature;
        }),
      );
    },
    showOutsiders: (shown) => outsiders.show(shown),
    showFronts: (shown) => fronts.show(shown),
    showContours: (contours) => coverage.showContours(contours),
    showCoverage: (shown) => coverage.show(shown),
    showMeasure(ends) {
      for (const feature of overSource.getFeatures())
        if (feature.get("over") === "measure") overSource.removeFeature(feature);
      if (!ends) return;
      const feature = new Feature({ geometry: new LineString(ends.map(project)), over: "measure" });
      feature.setStyle(measureStyle(palette));
      overSource.addFeature(feature);
    },
    fit,
    fitPlaces(shown) {
      if (shown.length === 0) return;
      map.getView().fit(boundingExtent(shown.map(project)), { padding: [40, 40, 40, 40], maxZoom: 15 });
    },
    centre: () => unproject(map.getView().getCenter()!),
    pickCentre() {
      const [width, height] = map.getSize()!;
      const centre = [width! / 2, height! / 2];
      const feature = featureAt(centre);
      choose(centre, feature ? pickOf(feature) : null);
    },
    pointCentre() {
      const [width, height] = map.getSize()!;
      const feature = featureAt([width! / 2, height! / 2]);
      events.pointAt(unproject(map.getView().getCenter()!), feature ? pickOf(feature) : null);
    },
    menuAtCentre() {
      const [width, height] = map.getSize()!;
      menuAt([width! / 2, height! / 2]);
    },
    stop() {
      clearTimeout(rest);
      relief?.stop();
      map.setTarget(undefined);
    },
  };
}
