import { z } from "zod";
import { field, id, keys, kindOf } from "./field";

export const LINK_STATES = ["planned", "proven", "doubtful", "failed"] as const;
export type LinkState = (typeof LINK_STATES)[number];
/** Stages in which a plan grows. */
export const MOST_STAGES = 9;
const rate = z.number().min(0).max(1_000_000).nullable().default(null);

export const linkSchema = z.object({
  ...keys,
  kind: field(z.enum(["access", "bridge"]), { label: "Kind" }),
  aRadioId: field(id, {
    label: "From",
    help: "The access point, or the bridge’s end nearer the feed.",
    affects: ["required"],
    refersTo: { to: "radios", whenGone: "remove" },
  }),
  bRadioId: field(id, { label: "To", affects: ["required"], refersTo: { to: "radios", whenGone: "remove" } }),
  state: field(z.enum(LINK_STATES), { label: "State" }),
  foliageDepthM: field(z.number().min(0).max(400).nullable(), {
    label: "Trees on the path",
    short: "trees",
    help: "Depth of trees that the signal is planned through: empty measures it in the ray, 0 takes trees for solid.",
    unit: "m",
  }),
  growthStage: field(z.number().int().min(1).max(MOST_STAGES).default(1), { label: "Stage of growth", since: 22 }),
  mustDownMbps: field(rate, {
    label: "Must carry, downstream",
    help: "Empty takes it from what stands behind it.",
    unit: "Mbit/s",
    step: 10,
    affects: ["required"],
    since: 25,
  }),
  mustUpMbps: field(rate, {
    label: "Must carry, upstream",
    unit: "Mbit/s",
    step: 10,
    affects: ["required"],
    since: 25,
  }),
});
export type Link = z.infer<typeof linkSchema>;
export const links = kindOf(linkSchema, { one: "link", many: "links" });
