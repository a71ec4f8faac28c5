import { z } from "zod";
import { field, id, keys, kindOf, moment } from "./field";

const level = z.number().min(-120).max(10);
const rate = z.number().min(0).max(100_000).nullable();
const figure = z.number().nullable().default(null);
const ofChain = (end: "A" | "B", chain: number) => ({
  label: `Signal at ${end}, chain ${chain + 1}`,
  unit: "dBm",
  ...(chain > 1 ? { since: 25 } : {}),
});
const expected = (what: string, unit: string) => ({ label: `Expected ${what}`, unit });

/** What a crew read at both ends of a link, per chain, and the prediction that it was judged against. */
export const measurementSchema = z.object({
  ...keys,
  linkId: field(id, { label: "Link", refersTo: { to: "links", whenGone: "remove" } }),
  measuredAt: field(moment, { label: "Measured at" }),
  measuredBy: field(z.string().max(120), { label: "Measured by" }),
  levelA0Dbm: field(level, ofChain("A", 0)),
  levelA1Dbm: field(level.nullable(), ofChain("A", 1)),
  levelB0Dbm: field(level, ofChain("B", 0)),
  levelB1Dbm: field(level.nullable(), ofChain("B", 1)),
  levelA2Dbm: field(level.nullable().default(null), ofChain("A", 2)),
  levelA3Dbm: field(level.nullable().default(null), ofChain("A", 3)),
  levelB2Dbm: field(level.nullable().default(null), ofChain("B", 2)),
  levelB3Dbm: field(level.nullable().default(null), ofChain("B", 3)),
  noiseADbm: field(level.nullable(), { label: "Noise floor at A", unit: "dBm" }),
  noiseBDbm: field(level.nullable(), { label: "Noise floor at B", unit: "dBm" }),
  downMbps: field(rate, { label: "Throughput, A to B", unit: "Mbit/s" }),
  upMbps: field(rate, { label: "Throughput, B to A", unit: "Mbit/s" }),
  // Kept because the plan may change later. Signals are those of all chains together, noise is that of one chain.
  expectedADbm: field(z.number(), expected("total signal at A", "dBm")),
  expectedBDbm: field(z.number(), expected("total signal at B", "dBm")),
  expectedDownMbps: field(z.number().min(0).nullable().default(null), expected("throughput, A to B", "Mbit/s")),
  expectedUpMbps: field(z.number().min(0).nullable().default(null), expected("throughput, B to A", "Mbit/s")),
  expectedNoiseADbm: field(figure, expected("noise floor at A", "dBm")),
  expectedNoiseBDbm: field(figure, expected("noise floor at B", "dBm")),
  floorDbm: field(figure, { label: "Acceptance floor then", unit: "dBm", since: 25 }),
  deviationDb: field(figure, { label: "Acceptance deviation then", unit: "dB", since: 25 }),
  notes: field(z.string().max(4000), { label: "Notes", lines: 2 }),
});
export type Measurement = z.infer<typeof measurementSchema>;
export const measurements = kindOf(measurementSchema, { one: "reading", many: "readings" });
