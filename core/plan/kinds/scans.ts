import { z } from "zod";
import { field, id, keys, kindOf, moment } from "./field";

/** Levels over frequency, heard at a site with an antenna at one heading and polarization. */
export const scanSchema = z.object({
  ...keys,
  siteId: field(id, { label: "Site", refersTo: { to: "sites", whenGone: "remove" } }),
  headingDeg: field(z.number().min(0).max(360), { label: "Azimuth, true", short: "azimuth", unit: "°" }),
  beamwidthDeg: field(z.number().min(1).max(360), { label: "Beamwidth (−3 dB)", help: "360 for an omni.", unit: "°" }),
  gainDbi: field(z.number().min(-10).max(60), { label: "Antenna gain", unit: "dBi" }),
  polarization: field(z.enum(["H", "V"]), { label: "Polarization" }),
  scannedAt: field(moment, { label: "Scanned at" }),
  source: field(z.string().max(120), { label: "Source" }),
  binKHz: field(z.number().min(0.1).max(1_000_000), { label: "Bandwidth of each level", unit: "kHz" }),
  frequenciesMHz: field(z.array(z.number().min(1).max(300_000)).min(1).max(20_000), {
    label: "Frequencies",
    unit: "MHz",
  }),
  levelsDbm: field(z.array(z.number().min(-200).max(30)).min(1).max(20_000), { label: "Levels", unit: "dBm" }),
});
export type Scan = z.infer<typeof scanSchema>;
export const scans = kindOf(scanSchema, { one: "noise scan", many: "noise scans" });
