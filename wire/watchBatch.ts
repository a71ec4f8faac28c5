import { AT, METRIC_COUNT, METRICS, type Metric, type Sample } from "#core/watch";

/** Samples as bytes: how many, their series' names, their moments, their figures; what was not told is not a number. */
export function packBatch(samples: readonly Sample[]): Uint8Array {
  const names = new TextEncoder().encode(JSON.stringify(samples.map(({ seriesId }) => seriesId)));
  const head = 8;
  const start = head + Math.ceil(names.length / 8) * 8;
  const bytes = new Uint8Array(start + samples.length * (8 + 4 * METRIC_COUNT));
  const view = new DataView(bytes.buffer);
  view.setUint32(0, samples.length);
  view.setUint32(4, names.length);
  bytes.set(names, head);
  const figures = start + samples.length * 8;
  for (const [i, { atMs, values }] of samples.entries()) {
    view.setFloat64(start + i * 8, atMs);
    for (const [at, { key }] of METRICS.entries())
      view.setFloat32(figures + (i * METRIC_COUNT + at) * 4, values[key] ?? NaN);
  }
  return bytes;
}

/** What `packBatch` packed. */
export function unpackBatch(bytes: Uint8Array): Sample[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(0);
  const length = view.getUint32(4);
  const names = JSON.parse(new TextDecoder().decode(bytes.subarray(8, 8 + length))) as string[];
  const start = 8 + Math.ceil(length / 8) * 8;
  const figures = start + count * 8;
  return names.map((seriesId, i) => {
    const values: Partial<Record<Metric, number>> = {};
    for (const { key } of METRICS) {
      const value = view.getFloat32(figures + (i * METRIC_COUNT + AT[key]) * 4);
      if (!Number.isNaN(value)) values[key] = value;
    }
    return { seriesId, atMs: view.getFloat64(start + i * 8), values };
  });
}
