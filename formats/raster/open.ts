import { open } from "node:fs/promises";
import { openAsciiGrid } from "./asciiGrid";
import { openHgt } from "./hgt";
import { RasterError } from "./error";
import { type RasterSource } from "./source";

/** Opens a raster file of any format that is read, told by its first bytes and its name. Throws RasterError. */
export async function openRaster(
  path: string,
  name: string,
  { epsg = null, values = "heights" }: { epsg?: number | null; values?: "heights" | "classes" } = {},
): Promise<RasterSource> {
  const file = await open(path);
  const head = Buffer.alloc(8);
  const { bytesRead } = await file.read(head, 0, 8, 0);
  await file.close();
  if (bytesRead < 8) throw new RasterError(`the file has ${bytesRead} bytes; a raster has 8 at least`);
  const start = head.toString("latin1", 0, 2);
  if (start === "II" || start === "MM") return (await import("./geotiff")).openGeotiff(path, values);
  if (start === "PK" || /\.hgt$/i.test(name)) return openHgt(path, name);
  return openAsciiGrid(path, { epsg, values });
}
