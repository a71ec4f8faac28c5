import type { Measurement, World } from "../plan";

/** The newest reading of each link. */
export function newestMeasurements(world: World): Map<string, Measurement> {
  const newest = new Map<string, Measurement>();
  for (const measurement of world.measurements.values()) {
    const known = newest.get(measurement.linkId);
    if (!known || known.measuredAt < measurement.measuredAt) newest.set(measurement.linkId, measurement);
  }
  return newest;
}
