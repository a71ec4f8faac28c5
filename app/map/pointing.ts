import type { FeatureLike } from "ol/Feature";
import type OlMap from "ol/Map";
import type { Point } from "ol/geom";
import Translate from "ol/interaction/Translate";
import type BaseLayer from "ol/layer/Base";
import { toLonLat } from "ol/proj";
import type { Place } from "#core/geodesy";
import type { linkLayer } from "./linkLayer";
import type { placeLayer } from "./placeLayer";
import type { MapPick } from "./types";

export interface PointingEvents {
  pick(pick: MapPick | null): void;
  hover(place: Place | null, name: string | null): void;
  pathHover(share: number | null): void;
  measureAt(place: Place, final: boolean): void;
  isMeasuring(): boolean;
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

/** What a pointer does on the map: it chooses, measures, points, asks about a point, and drags the chosen place. */
export function pointing(
  map: OlMap,
  element: HTMLElement,
  {
    places,
    links,
    named,
    isOutlining,
  }: {
    places: ReturnType<typeof placeLayer>;
    links: ReturnType<typeof linkLayer>;
    /** A layer whose features are named and never chosen. */
    named: BaseLayer;
    isOutlining: () => boolean;
  },
  events: PointingEvents,
) {
  const { crowd } = places;
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
        layerFilter: (layer) => layer === named,
      })) as string | undefined) ?? null;

  /** Chooses what stands at a pixel; a plate opens instead, and what lies under it is chosen where it lies free. */
  const choose = (pixel: number[], pick: MapPick | null) => {
    const together = map.forEachFeatureAtPixel(pixel, (one) => crowd.extentOf(one) ?? undefined);
    if (together && pick?.kind !== "site")
      map.getView().fit(together, { padding: [60, 60, 60, 60], maxZoom: 17, duration: 200 });
    else events.pick(pick);
  };
  let pointedAtMs = -Infinity;
  map.on("click", (event) => {
    if (isOutlining()) return;
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
    filter: (feature) => !events.isPointing() && places.isChosen(feature),
    layers: [places.layer],
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
    const selectedLine = links.chosenLine();
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

  const middle = (): number[] => map.getSize()!.map((px) => px / 2);
  const atMiddle = () => {
    const feature = featureAt(middle());
    return feature ? pickOf(feature) : null;
  };
  const centre = () => unproject(map.getView().getCenter()!);
  return {
    centre,
    pickCentre: () => choose(middle(), atMiddle()),
    pointCentre: () => events.pointAt(centre(), atMiddle()),
    menuAtCentre: () => menuAt(middle()),
    stop: () => clearTimeout(rest),
  };
}
