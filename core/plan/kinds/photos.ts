import { z } from "zod";
import { field, id, keys, kindOf, latDeg, lonDeg, moment } from "./field";

const pixels = z.number().int().positive();

/** What is known of a photograph; its bytes lie under its id. */
export const photoSchema = z.object({
  ...keys,
  ownerKind: field(z.enum(["site", "subscriber"]), { label: "Of a", words: { subscriber: "customer" } }),
  ownerId: field(id, {
    label: "Place",
    refersTo: {
      to: { field: "ownerKind", kinds: { site: "sites", subscriber: "subscribers" } },
      whenGone: "remove",
    },
  }),
  name: field(z.string().max(160), { label: "Name" }),
  caption: field(z.string().max(400), { label: "Caption" }),
  takenAt: field(moment.nullable(), { label: "Taken at" }),
  latDeg: field(latDeg.nullable(), { label: "Latitude", unit: "°" }),
  lonDeg: field(lonDeg.nullable(), { label: "Longitude", unit: "°" }),
  widthPx: field(pixels, { label: "Width", unit: "px", setBy: "tejado" }),
  heightPx: field(pixels, { label: "Height", unit: "px", setBy: "tejado" }),
});
export type Photo = z.infer<typeof photoSchema>;
export const photos = kindOf(photoSchema, { one: "photograph", many: "photographs" });
