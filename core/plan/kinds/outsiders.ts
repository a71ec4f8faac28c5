import { z } from "zod";
import { field, heightM, id, keys, kindOf, latDeg, lonDeg, name } from "./field";

/** A transmitter of somebody else whose place is known. */
export const outsiderSchema = z.object({
  ...keys,
  name: field(name, { label: "Name" }),
  latDeg: field(latDeg, { label: "Latitude", unit: "°" }),
  lonDeg: field(lonDeg, { label: "Longitude", unit: "°" }),
  heightM: field(heightM, { label: "Height above ground", short: "height", unit: "m" }),
  azimuthDeg: field(z.number().min(0).max(360).nullable(), {
    label: "Azimuth, true",
    short: "azimuth",
    help: "Empty where it is unknown, or it has no front.",
    unit: "°",
  }),
  antennaModelId: field(id.nullable(), {
    label: "Antenna",
    help: "The antenna of the library that it resembles; empty radiates alike in all directions.",
    refersTo: { to: "equipment", sheet: "antenna", whenGone: "refuse" },
  }),
  frequencyMHz: field(z.number().min(100).max(120_000), { label: "Frequency", unit: "MHz" }),
  widthMHz: field(z.number().min(0.1).max(5000), { label: "Channel width", short: "width", unit: "MHz" }),
  eirpDbm: field(z.number().min(-40).max(90), { label: "EIRP", unit: "dBm" }),
  timeShare: field(z.number().min(0.01).max(1), { label: "Share of the time it sends", short: "time share" }),
  notes: field(z.string().max(1000), { label: "Notes", lines: 2 }),
});
export type Outsider = z.infer<typeof outsiderSchema>;
export const outsiders = kindOf(outsiderSchema, {
  one: "outside transmitter",
  many: "outside transmitters",
  archiveFrom: 4,
});
