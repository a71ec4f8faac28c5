import type { Area } from "#core/plan";
import { outlineProperties, readAreas, readFeatures, readOverlay, type AreaOptions } from "#formats/shapes";
import type { RowError } from "#formats/places";
import { telling } from "#formats/refused";
import { expose } from "comlink";

let features: GeoJSON.Feature[] = [];

const api = {
  /** Reads a file; gives how many features it has and what they say of themselves. */
  load(bytes: ArrayBuffer): { count: number; properties: string[] } {
    features = telling(() => readFeatures(new Uint8Array(bytes)));
    return { count: features.length, properties: outlineProperties(features) };
  },
  areas: (options: AreaOptions): { areas: Area[]; errors: RowError[] } =>
    readAreas(features, options, () => crypto.randomUUID()),
  overlay: (): string => telling(() => readOverlay(features)),
};
export type ShapesWorker = typeof api;
expose(api);
