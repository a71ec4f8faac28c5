import type { Place } from "#core/geodesy";
import type { PathState } from "#core/link";
import type { LinkState } from "#core/plan";

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
  /** Where a blocked line is cut, as a share of its length. */
  cutShare: number | null;
  inHand: boolean;
}
export type MapPick = { kind: "site" | "subscriber" | "link"; id: string };

export interface PlanMapProps {
  planId: string;
  terrain: { version: string; extent: [number, number, number, number] } | null;
  sites: MapSite[];
  subscribers: MapSubscriber[];
  links: MapLink[];
  selected: MapPick | null;
  onPick: (pick: MapPick | null) => void;
  /** The place on the selected path that the section's cursor stands on. */
  cursor: Place | null;
  /** Share of the selected path nearest to the pointer, or null. */
  onPathHover: (share: number | null) => void;
}
