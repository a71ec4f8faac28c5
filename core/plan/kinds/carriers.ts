import { z } from "zod";
import { field, keys, kindOf } from "./field";

/**
 * What an access point or bridge puts on the air. It stands once, and every radio that talks to it uses it: a sector that
 * moves takes its customers along.
 */
export const carrierSchema = z.object({
  ...keys,
  frequencyMHz: field(z.number().min(100).max(120_000), {
    label: "Frequency",
    help: "The middle of the channel; in FDD of the lower of its two.",
    unit: "MHz",
    decimals: 1,
  }),
  widthMHz: field(z.number().min(0.1).max(5000), { label: "Channel width", short: "width", unit: "MHz" }),
  timingGroup: field(z.string().max(60).default(""), {
    label: "Sync group",
    help: "Access points of one sync group send at the same times and do not hear each other; empty keeps its own time.",
  }),
  arriveAtDbm: field(z.number().min(-100).max(-20).nullable().default(null), {
    label: "Customers’ signal at the access point",
    help: "Power control: customers are turned down until they arrive on each chain at this signal; empty leaves every radio at the power that it is set to.",
    unit: "dBm",
    since: 8,
  }),
  downShare: field(z.number().min(0.05).max(0.95).nullable().default(null), {
    label: "Downlink share of the frame",
    short: "downlink share",
    help: "Empty leaves it to the access point’s radio.",
    since: 12,
  }),
});
export type Carrier = z.infer<typeof carrierSchema>;
export type Channel = Pick<Carrier, "frequencyMHz" | "widthMHz">;
export const carriers = kindOf(carrierSchema, { one: "channel", many: "channels", follows: true });
