// What the survey costs at full size: a plan of 10 000 subscribers out and in again, and a raster of 100 million cells.
import { copyFileSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { randomUUID } from "node:crypto";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { largeSibling } from "#demo";
import { writeGeotiff } from "#formats/raster";
import { archivePlan, jobOf, pauseWork, submit, takeArchive, type JobTools } from "#jobs";
import { createPlan, openStore, packLayer, signedBy } from "#store";

const quiet: JobTools = { progress: () => undefined, check: () => undefined, signal: new AbortController().signal };
const folder = mkdtempSync(join(tmpdir(), "tejado-bench-"));
const seconds = (since: number) => (performance.now() - since) / 1000;
const print = (name: string, value: number, bound: number, unit: string) =>
  console.log(
    `${name.padEnd(58)} ${value.toFixed(1).padStart(8)} ${unit}  bound ${bound} ${unit}: ${(bound / value).toFixed(1)} times under`,
  );

const store = await openStore(join(folder, "one"));
const { rows, surface } = largeSibling();
const { layer, tiles } = packLayer(rows.plan.id, "ground", "bare", surface);
await createPlan(store.db, { ...rows, layers: [layer] }, signedBy("bench"), "Began", {
  tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
  photos: [],
});
console.log(
  `${rows.subscribers.length} subscribers, ${rows.links.length} links, ${layer.columns} × ${layer.rows} cells\n`,
);
let start = performance.now();
const archive = await archivePlan(store, rows.plan.id, quiet);
print("export of the whole plan", seconds(start), 30, "s");
const other = await openStore(join(folder, "two"));
start = performance.now();
const received = join(folder, "received.zip");
writeFileSync(received, archive);
const planId = await takeArchive(other, received, signedBy("bench"), quiet);
print("import into an empty Tejado", seconds(start), 30, "s");
const again = await archivePlan(other, planId, quiet);
console.log(
  `second export equal byte for byte: ${Buffer.from(again).equals(Buffer.from(archive))}, ${(archive.length / 1e6).toFixed(1)} MB`,
);
await other.close();

const side = 10_000;
const frame = { westDeg: 10, northDeg: 46, cellLonDeg: 0.0001, cellLatDeg: 0.0001, columns: side, rows: side };
const file = join(folder, "large.tif");
writeFileSync(
  file,
  writeGeotiff(frame, (x, y) => 300 + 200 * Math.sin(x / 90) * Math.cos(y / 70) + ((x * 31 + y * 17) % 13) / 10),
);
const uploadId = randomUUID();
mkdirSync(join(store.directory, "uploads"), { recursive: true });
copyFileSync(file, join(store.directory, "uploads", uploadId));
let peakMB = 0;
const watch = setInterval(() => (peakMB = Math.max(peakMB, process.memoryUsage().rss / 1e6)), 50);
start = performance.now();
const job = await submit(store, "terrain", rows.plan.id, "Terrain: large.tif", {
  author: signedBy("bench"),
  kind: "bare",
  files: [{ uploadId, name: "large.tif" }],
  epsg: null,
  legend: null,
});
const standing = () => jobOf(store, rows.plan.id, job.id).then((now) => now!);
while ((await standing()).state === "running") await new Promise((resolve) => setTimeout(resolve, 200));
clearInterval(watch);
console.log(`\n${(await standing()).message}`);
console.log(`GeoTIFF of ${side} × ${side} read in ${seconds(start).toFixed(0)} s`);
print("memory of the whole process while it was read, at most", peakMB, 1500, "MB");
await pauseWork(store);
await store.close();
rmSync(folder, { recursive: true, force: true });
