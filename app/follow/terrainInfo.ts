import type { PlanContext } from "#engine";
import type { TerrainInfo } from "./planWire";

/** What a window needs to know of a plan's ground; null without any raster. */
export function terrainInfo({ extent, terrainVersion, reliefVersion }: PlanContext): TerrainInfo | null {
  return extent && { version: terrainVersion, reliefVersion, extent };
}
