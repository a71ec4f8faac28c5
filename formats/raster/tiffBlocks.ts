import { RasterError } from "./error";

/** What a TIFF's first directory says of the blocks in which its cells lie: numbers by field. */
interface BlockFields {
  width: number;
  height: number;
  bitsPerSample: number;
  samplesPerPixel: number;
  compression: number;
  isPlanar: boolean;
  /** Size of a block; a strip is as wide as the raster. */
  blockWidth: number;
  blockHeight: number;
  isTiled: boolean;
  offsets: number[];
  byteCounts: number[];
}

/** A block that the writer left out because it held nothing, by its column and row of blocks. */
export type EmptyBlock = readonly [blockColumn: number, blockRow: number];

/**
 * Holds every block's place and length against the file: what lies beyond its end or is shorter than its cells is refused by
 * number, so that a file cut off half-way is never read as sea level. Gives the blocks that were left out on purpose.
 */
export function checkBlocks(fields: BlockFields, fileBytes: number): EmptyBlock[] {
  const { width, height, blockWidth, blockHeight, isTiled, isPlanar, samplesPerPixel, offsets, byteCounts } = fields;
  const across = Math.ceil(width / blockWidth);
  const down = Math.ceil(height / blockHeight);
  const expected = across * down * (isPlanar ? samplesPerPixel : 1);
  const name = isTiled ? "tile" : "strip";
  if (offsets.length < expected || byteCounts.length < expected)
    throw new RasterError(
      `the file lists ${Math.min(offsets.length, byteCounts.length)} ${name}s; its ${width} × ${height} cells need ${expected}`,
    );
  const empty: EmptyBlock[] = [];
  for (let i = 0; i < expected; i++) {
    const offset = offsets[i]!;
    const bytes = byteCounts[i]!;
    const row = Math.floor((i % (across * down)) / across);
    if (offset === 0 && bytes === 0) {
      if (i < across * down) empty.push([i % across, row]);
      continue;
    }
    if (!(offset > 0 && bytes > 0 && offset + bytes <= fileBytes))
      throw new RasterError(
        `${name} ${i + 1} of ${expected} lies at bytes ${offset} to ${offset + bytes}; the file has ${fileBytes}`,
      );
    if (fields.compression !== 1) continue;
    const rows = isTiled ? blockHeight : Math.min(blockHeight, height - row * blockHeight);
    const needed = Math.ceil((blockWidth * fields.bitsPerSample * (isPlanar ? 1 : samplesPerPixel)) / 8) * rows;
    if (bytes < needed)
      throw new RasterError(`${name} ${i + 1} of ${expected} holds ${bytes} bytes; its ${rows} rows need ${needed}`);
  }
  return empty;
}
