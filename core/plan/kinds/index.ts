import type { z } from "zod";
import { alarms } from "./alarms";
import { areas } from "./areas";
import { carriers } from "./carriers";
import { crews } from "./crews";
import { equipment } from "./equipment";
import { layers } from "./layers";
import { links } from "./links";
import { measurements } from "./measurements";
import { outsiders } from "./outsiders";
import { overlays } from "./overlays";
import { photos } from "./photos";
import { plans } from "./plans";
import { radios } from "./radios";
import { scans } from "./scans";
import { sites } from "./sites";
import { subscribers } from "./subscribers";
import { visits } from "./visits";

/** Every kind of row, in an order in which rows can be put: what is pointed at goes before what points. */
export const KINDS = {
  plans,
  layers,
  areas,
  overlays,
  equipment,
  sites,
  subscribers,
  carriers,
  radios,
  links,
  measurements,
  scans,
  outsiders,
  photos,
  crews,
  visits,
  alarms,
} as const;

export type RowKind = keyof typeof KINDS;
/** The row of each kind. */
export type RowKinds = { [K in RowKind]: z.infer<(typeof KINDS)[K]["schema"]> };
export type ListKind = Exclude<RowKind, "plans">;

export const ROW_KINDS = Object.keys(KINDS) as [RowKind, ...RowKind[]];
/** All but the plan itself, of which there is one. */
export const LIST_KINDS = ROW_KINDS.filter((kind): kind is ListKind => kind !== "plans");

export { type Alarm } from "./alarms";
export { areaSchema, type Area } from "./areas";
export { type Carrier, type Channel } from "./carriers";
export { type Crew } from "./crews";
export { equipmentSchema, type Equipment } from "./equipment";
export { LONGEST_NAME, type Effect, type FieldFacts, type Reference } from "./field";
export { LAYER_KINDS, layerSchema, type Layer } from "./layers";
export { MOST_STAGES, type Link, type LinkState } from "./links";
export { measurementSchema, type Measurement } from "./measurements";
export { outsiderSchema, type Outsider } from "./outsiders";
export { OVERLAY_LIMIT_CHARACTERS, type Overlay } from "./overlays";
export { photoSchema, type Photo } from "./photos";
export { CLEARANCE_SCHOOLS, CLIMATES, planSchema, SEASONS, type Plan } from "./plans";
export {
  CABLE_WORDS,
  INJECTOR_NAMES,
  radioWithChannelSchema,
  type Radio,
  type RadioRow,
  type RadioWithChannel,
} from "./radios";
export { scanSchema, type Scan } from "./scans";
export { siteSchema, type Site } from "./sites";
export { subscriberSchema, type Subscriber, type SubscriberStatus } from "./subscribers";
export { PERMIT_WORDS, PERMITS, VISIT_WORKS, type Visit } from "./visits";
