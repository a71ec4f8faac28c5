import { z } from "zod";
import { field, heightM, keys, kindOf, latDeg, lonDeg, name } from "./field";

/** How far a customer has come. */
const SUBSCRIBER_STATUSES = ["asked", "surveyed", "planned", "installed", "declined"] as const;
export type SubscriberStatus = (typeof SUBSCRIBER_STATUSES)[number];
const MOUNTS = ["roof", "pole", "wall", "window"] as const;
const GLAZINGS = ["none", "traditional", "thermally_efficient"] as const;
const rate = z.number().min(0).max(100_000);

export const subscriberSchema = z.object({
  ...keys,
  name: field(name, {
    label: "Name",
    affects: ["heard"],
    register: { at: 1, widthPx: 190 },
    column: { key: "name", title: "Name", names: [] },
  }),
  latDeg: field(latDeg, {
    label: "Latitude",
    unit: "°",
    affects: ["heard", "moved"],
    register: { at: 11, widthPx: 96 },
    column: { key: "lat", title: "Latitude", names: [] },
  }),
  lonDeg: field(lonDeg, {
    label: "Longitude",
    unit: "°",
    affects: ["heard", "moved"],
    register: { at: 12, widthPx: 96 },
    column: { key: "lon", title: "Longitude", names: [] },
  }),
  mount: field(z.enum(MOUNTS), {
    label: "Mount",
    start: "roof",
    register: { at: 7, widthPx: 84 },
    column: { key: "mount", title: "Mount", names: ["mount", "mounting"] },
  }),
  antennaHeightM: field(heightM, {
    label: "Usual antenna height",
    short: "antenna",
    unit: "m",
    step: 0.5,
    decimals: 1,
    start: 6,
    register: { at: 8, widthPx: 84 },
    column: {
      key: "height",
      title: "Antenna height, m",
      names: ["height", "heightm", "antennaheight", "antennaheightm"],
    },
  }),
  maxHeightM: field(heightM, {
    label: "Max. antenna height",
    short: "max. height",
    help: "The highest that an antenna can stand here, pole included.",
    unit: "m",
    step: 0.5,
    decimals: 1,
    start: 9,
    affects: ["answered"],
    register: { at: 9, widthPx: 100 },
    column: { key: "maxHeight", title: "Max. height, m", names: [] },
  }),
  status: field(z.enum(SUBSCRIBER_STATUSES), {
    label: "Status",
    start: "asked",
    since: 3,
    before: "asked",
    register: { at: 2, widthPx: 100 },
    column: { key: "status", title: "Status", names: ["status", "state", "stage"] },
  }),
  demandMbps: field(rate, {
    label: "Plan rate, down",
    short: "down",
    unit: "Mbit/s",
    step: 5,
    decimals: 1,
    start: 20,
    affects: ["answered", "required"],
    register: { at: 3, widthPx: 96 },
    column: {
      key: "demand",
      title: "Plan rate down, Mbit/s",
      names: ["demand", "demandmbps", "mbps", "speed", "down", "demanddown"],
    },
  }),
  demandUpMbps: field(rate, {
    label: "Plan rate, up",
    short: "up",
    unit: "Mbit/s",
    step: 1,
    decimals: 1,
    start: 5,
    since: 3,
    before: 0,
    affects: ["answered", "required"],
    register: { at: 4, widthPx: 84 },
    column: { key: "demandUp", title: "Plan rate up, Mbit/s", names: ["demandup", "demandupmbps", "up", "upload"] },
  }),
  tier: field(z.string().max(60), {
    label: "Service tier",
    short: "tier",
    start: "",
    since: 3,
    before: "",
    register: { at: 5, widthPx: 90 },
    column: { key: "tier", title: "Service tier", names: ["tier", "plan", "service", "package"] },
  }),
  people: field(z.number().int().min(1).max(100_000), {
    label: "People",
    start: 2,
    affects: ["answered", "behind"],
    register: { at: 6, widthPx: 64 },
    column: { key: "people", title: "People", names: ["people", "persons", "users"] },
  }),
  behind: field(z.enum(GLAZINGS), {
    label: "Wall or glass in front",
    short: "behind",
    words: { none: "none", traditional: "plain glass or wall", thermally_efficient: "coated glass" },
    start: "none",
    affects: ["heard"],
    register: { at: 10, widthPx: 110, folded: true },
    column: { key: "behind", title: "Behind wall or glass", names: ["behind", "glazing"] },
  }),
  notes: field(z.string().max(4000), {
    label: "Notes",
    lines: 2,
    start: "",
    affects: [],
    setBy: "crew",
    register: { at: 13, widthPx: 240 },
    column: { key: "notes", title: "Notes", names: [] },
  }),
});
export type Subscriber = z.infer<typeof subscriberSchema>;
export const subscribers = kindOf(subscriberSchema, { one: "customer", many: "customers", isTable: true });
