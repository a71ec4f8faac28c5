import type { FieldNote, JobMap, Named } from "#core/crews";
import type { CrewEnd } from "#core/install";
import type { Crew, Link, LinkEnd, Plan, Visit } from "#core/plan";
import type { Promised } from "#core/proof";

/** A job in the list that a crew chooses from. */
export interface FieldVisit {
  id: string;
  name: string;
  work: Visit["work"];
  day: string;
  startMinute: number;
  minutes: number;
  state: Visit["state"];
  crews: [a: string, b: string];
}

/** What a phone holds of one end. */
export interface FieldEnd {
  sheet: CrewEnd;
  end: LinkEnd;
  crew: Pick<Crew, "name" | "people" | "radioChannel" | "phone"> | null;
  /** The row that stands for the place, and what of it the crew may put right. */
  place: { kind: "sites" | "subscribers"; id: string; notes: string; access: string; hazards: string };
  /** The address it is managed under, and its network's; empty where none is planned. */
  address: string;
  gateway: string;
  photos: { id: string; name: string; caption: string }[];
  /** Where the far end stands from here, whatever the antenna looks at; missing in packs from before it was told. */
  line?: { bearingDeg: number; tiltDownDeg: number };
  /** What else of the plan may be seen from here, by its true bearing and how far it is. */
  landmarks: { name: string; bearingDeg: number; distanceM: number }[];
  /** What is put up here, "30 m Tornel Cuerda 5e", and its weight in the car and up the mast, kg; null where nothing is put up. */
  carried?: { parts: string[]; carKg: number; climbKg: number } | null;
}

/** Counts up whenever the field pages need something that packs fetched before do not hold: phones then fetch theirs anew. */
export const PACK_FORMAT = 4;

/** All that a phone holds of one job: enough for a day without signal. */
export interface FieldPack {
  /** As `PACK_FORMAT` was when it was made; missing in packs from before it was counted. */
  format?: number;
  planId: string;
  planName: string;
  revision: number;
  madeAt: string;
  plan: Plan;
  visit: Visit;
  name: string;
  link: Link;
  distanceM: number;
  /** The country about the path, and the plan's sites on it; missing in packs from before there were maps. */
  country?: { map: JobMap; sites: Named[] };
  ends: { a: FieldEnd; b: FieldEnd } | null;
  /** What a reading will be held against; null where the path has no prediction. */
  promised: Promised | null;
  tools: string;
  notes: FieldNote[];
}

/** What a phone sends: a note, or a field that it puts right with the revision that it saw. */
export type FieldOp =
  | { id: string; note: FieldNote }
  | {
      id: string;
      visitId: string;
      base: number;
      what: string;
      by: string;
      patch: { kind: "sites" | "subscribers" | "radios"; id: string; set: Record<string, unknown> };
    };

/** What became of an op. Refused and conflicting ones stay on the phone until somebody decides. */
export type FieldAnswer =
  | { id: string; kind: "kept" }
  | { id: string; kind: "conflict"; message: string; theirs: unknown; revision: number }
  | { id: string; kind: "refused"; message: string };

/** Whose session a phone has: what is written on it is that person's. */
export interface FieldAccount {
  id: string;
  name: string;
}

/** Header by which a phone says whose account wrote what it sends. */
export const WRITER_HEADER = "x-tejado-writer";

/** Where the phone's worker keeps photographs and recordings that were looked at once. */
export const PICTURE_CACHES = ["photographs", "recordings"] as const;
