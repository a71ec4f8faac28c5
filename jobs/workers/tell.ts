import { afterBlock, RasterError, type RasterSource } from "#formats/raster";

/** What the reader says of itself, whatever it reads. */
export type ReaderMessage =
  /** Where it is, so that whoever waits in vain can say so: "slope.tif: reading rows 1 to 64 of 900". */
  { kind: "reading"; place: string } | { kind: "finished" } | { kind: "failed"; message: string; todo: string };

/** Memory beyond which the reading gives up, bytes: blocks unpack outside of the heap. */
const MOST_BYTES = 1_400 * 1024 * 1024;
/** Between blocks, it says no oftener than this that it goes on, ms. */
const BLOCK_TELL_MS = 500;

/** Says something to whoever started this process. */
export const tell = (message: object): Promise<void> =>
  new Promise((resolve, reject) =>
    process.send!(message, undefined, {}, (error) => (error ? reject(error) : resolve())),
  );

/** Says something and waits until it is dealt with, so that nothing piles up. */
export async function send(message: object): Promise<void> {
  const heard = new Promise<void>((resolve) => process.once("message", () => resolve()));
  await tell(message);
  await heard;
}

const telling = (place: string): Promise<void> => tell({ kind: "reading", place } satisfies ReaderMessage);

/** Opens a raster, telling where in it the reading is: before rows are unpacked, and after each block of them. */
export async function announced(name: string, open: () => Promise<RasterSource>): Promise<RasterSource> {
  await telling(`${name}: reading its header`);
  const source = await open();
  return {
    ...source,
    async readRows(first, count) {
      const rows = `rows ${first + 1} to ${first + count}`;
      const place = `${name}: reading ${rows} of ${source.rows}`;
      await telling(place);
      const { rss } = process.memoryUsage();
      if (rss > MOST_BYTES) throw new RasterError(`${rows} need more memory than the ${MOST_BYTES >> 20} MB there are`);
      let toldAt = performance.now();
      afterBlock(async () => {
        if (performance.now() - toldAt < BLOCK_TELL_MS) return;
        toldAt = performance.now();
        await telling(place);
      });
      return source.readRows(first, count);
    },
  };
}

/** What is said of a raster that cannot be read, its name before it. */
export const refusalOf = (name: string, error: unknown): { message: string; todo: string } => {
  const refused =
    error instanceof RasterError
      ? error
      : new RasterError("its data are damaged or of a kind that is not read here", { cause: error });
  return { message: `${name}: ${refused.message}`, todo: refused.todo };
};
