import type { Layer } from "#core/plan";

/** What a plan's archive holds of each cell of a raster: each a GeoTIFF of its own. */
export const PLANES = ["ground", "cover-height", "cover-code"] as const;
export type PlaneName = (typeof PLANES)[number];

export const planeFile = (layerId: string, plane: PlaneName): string => `terrain/${layerId}-${plane}.tif`;

/** The plane without which a layer is none. */
export const requiredPlane = ({ kind }: Pick<Layer, "kind">): PlaneName => (kind === "cover" ? "cover-code" : "ground");
