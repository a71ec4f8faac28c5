import { z } from "zod";
import { notFeatures } from "../nesting";
import { field, keys, kindOf, name } from "./field";

export const OVERLAY_LIMIT_CHARACTERS = 2_000_000;
/** A GeoJSON FeatureCollection as text. */
const features = z
  .string()
  .max(OVERLAY_LIMIT_CHARACTERS)
  .superRefine((text, context) => {
    const wrong = text.length <= OVERLAY_LIMIT_CHARACTERS && notFeatures(text);
    if (wrong) context.addIssue({ code: "custom", message: wrong });
  });

/** The user's own lines and areas, shown on the plan and taking no part in any computation. */
export const overlaySchema = z.object({
  ...keys,
  name: field(name, { label: "Name" }),
  geojson: field(features, { label: "Lines and areas" }),
  shown: field(z.boolean(), { label: "Shown" }),
});
export type Overlay = z.infer<typeof overlaySchema>;
export const overlays = kindOf(overlaySchema, { one: "overlay", many: "overlays" });
