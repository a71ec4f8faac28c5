import type { Front } from "#core/mast";
import type { Place } from "#core/geodesy";
import type { PathState } from "#core/link";
import type { HeatPoint } from "#core/search";
import type { LinkState, Outsider } from "#core/plan";
import type { DensityCell } from "#core/survey";
import type { CoverKind } from "#core/terrain";
import type { ReactNode } from "react";

export interface MapSite {
  id: string;
  name: string;
  place: Place;
}
export interface MapSubscriber extends MapSite {
  linked: boolean;
}
export interface MapLink {
  id: string;
  label: string;
  from: Place;
  to: Place;
  state: PathState;
  proof: LinkState;
  /** The customer at its far end; null between two sites. */
  subscriberId: string | null;
  /** Where a blocked line is cut, as a share of its length. */
  cutShare: number | null;
  inHand: boolean;
}
export interface MapArea {
  id: string;
  name: string;
  kind: CoverKind;
  rings: Ring[];
}
/** Lines along which a figure is the same, in longitudes and latitudes. */
export interface MapContour {
  value: number;
  rings: Ring[];
}
/** `isAround` rings a place that is on the plan already rather than standing for one that could be. */
export type HeatMark = HeatPoint & { isAround?: boolean };
export type Ring = [lonDeg: number, latDeg: number][];
export type MapPick = { kind: "site" | "subscriber" | "link" | "area"; id: string };

/** Told of an outline while it is drawn. */
export interface Outlining {
  /** A corner was put; `finish` closes the outline. */
  onCorners: (count: number, finish: () => void) => void;
  onDrawn: (ring: Ring) => void;
}

export interface PlanMapProps {
  planId: string;
  terrain: { version: string; extent: [number, number, number, number] } | null;
  sites: MapSite[];
  subscribers: MapSubscriber[];
  links: MapLink[];
  /** Transmitters of others. */
  outsiders?: readonly Outsider[];
  /** How far the public keeps away from antennas. */
  fronts?: readonly Front[];
  selected: MapPick | null;
  onPick: (pick: MapPick | null) => void;
  /** The place on the selected path that the section's cursor stands on. */
  cursor: Place | null;
  /** Places marked by how a path would be from there. */
  heat?: HeatMark[] | null;
  /** Shows these places whole each time that others are given. */
  lookAt?: readonly Place[] | null;
  /** While set, a click hands over its place and what stands there instead of choosing. */
  onPoint?: ((place: Place, pick: MapPick | null) => void) | null;
  /** Asked about a point: a right click, a long press, or the key at the cross. */
  onMenu?: (point: { place: Place; at: [leftPx: number, topPx: number]; pick: MapPick | null }) => void;
  /** The chosen place was dragged elsewhere. */
  onMoved?: (pick: MapPick, place: Place) => void;
  /** Stands over the plan. */
  over?: ReactNode;
  /** Share of the selected path nearest to the pointer, or null. */
  onPathHover: (share: number | null) => void;
  /** Shows the places whole when they change, not the terrain. */
  fitsPlaces?: boolean;
  areas?: MapArea[];
  /** GeoJSON texts of the user's own lines and areas. */
  overlays?: string[];
  density?: DensityCell[];
  /** Drawn and labelled over a raster. */
  contours?: readonly MapContour[];
  /** A raster over the relief, even in latitude and longitude: west, south, east and north edge, and a pixel for each cell. */
  coverage?: { extent: [number, number, number, number]; canvas: HTMLCanvasElement } | null;
  /** While set, clicks draw an outline. */
  outlining?: Outlining | null;
  /** Corners of the selected outline were moved. */
  onReshaped?: (id: string, rings: Ring[]) => void;
  /** More buttons beside the map's own. */
  tools?: ReactNode;
}
