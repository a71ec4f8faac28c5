import { FileRefused } from "#formats/refused";
import { startProcess } from "../threads";
import type { ReaderOrder } from "./workers/reader";
import type { ArchiveMessage } from "./workers/readArchive";
import type { RasterMessage } from "./workers/readRasters";
import type { ReaderMessage } from "./workers/tell";

/** Heap that reading may take, MB; the rows of rasters in hand lie outside of it. */
const HEAP_MB = { rasters: 700, archive: 1500 } as const;
/** How long the reader may use up nothing of its file before it is ended, ms: a block that takes longer is damaged. */
const LONGEST_SILENCE_MS = 10_000;
/** How long it may take to begin, ms; an archive is unpacked whole before anything is said of it, and one of 6 GB takes minutes. */
const BEGINNING_MS = { rasters: 60_000, archive: 600_000 } as const;

/** What a reader is to be read for. */
interface Reading {
  signal: AbortSignal;
  /** Where it is before it says so itself: "slope.tif: reading its header". */
  place: string;
  silenceMs?: number;
}

/** What is to be done about a file over which the reader ended. */
const FETCH_AGAIN = {
  rasters: "Fetch the file again, or write it anew as a GeoTIFF in EPSG:4326, and bring it again.",
  archive: "Fetch the archive again, or have it written anew, and bring it again.",
} as const;

/**
 * Reads a file from outside in a process of its own, which is ended when it says nothing for long, and gives `take` what it found; the
 * reader waits until that is dealt with. Throws FileRefused with the place, whatever became of the process.
 */
export async function readApart<Order extends ReaderOrder>(
  order: Order,
  { signal, place: begin, silenceMs }: Reading,
  take: (found: Order extends { kind: "archive" } ? ArchiveMessage : RasterMessage) => Promise<void> | void,
): Promise<void> {
  const reader = startProcess("reader", order, HEAP_MB[order.kind]);
  const halt = () => void reader.kill("SIGKILL");
  signal.addEventListener("abort", halt);
  let place = begin;
  let hasBegun = false;
  let taking: Promise<void> = Promise.resolve();
  let silence: NodeJS.Timeout | undefined;
  try {
    await new Promise<void>((resolve, reject) => {
      const refuse = (what: string) => reject(new FileRefused(`${place} ${what}`, { todo: FETCH_AGAIN[order.kind] }));
      /** Who uses up nothing for long is ended: a damaged block can keep its unpacking busy for ever. */
      const listen = () => {
        clearTimeout(silence);
        const mostMs = silenceMs ?? (hasBegun ? LONGEST_SILENCE_MS : BEGINNING_MS[order.kind]);
        silence = setTimeout(() => {
          refuse(`took longer than ${mostMs / 1000} s; the file is damaged there`);
          halt();
        }, mostMs);
      };
      listen();
      const hear = async (message: ReaderMessage | ArchiveMessage | RasterMessage) => {
        if (message.kind === "reading") place = message.place;
        else if (message.kind === "finished") resolve();
        else if (message.kind === "failed") reject(new FileRefused(message.message, { todo: message.todo }));
        else {
          await take(message as Parameters<typeof take>[0]);
          if (reader.connected) reader.send("kept");
        }
      };
      reader.on("message", (message: ReaderMessage | ArchiveMessage | RasterMessage) => {
        hasBegun = true;
        // While what it found is kept, the reader waits.
        clearTimeout(silence);
        taking = taking.then(() => hear(message)).then(listen);
        taking.catch(reject);
      });
      reader.on("error", reject);
      reader.on("exit", (code, ended) => {
        // What it said last may still be on its way.
        void taking.finally(() => {
          if (signal.aborted) reject(new Error("The reading was stopped."));
          else
            refuse(
              `ended the reader (${ended ?? `code ${code}`}): the file is damaged there, or needs more memory than there is`,
            );
        });
      });
    });
  } finally {
    signal.removeEventListener("abort", halt);
    // A batch on its way into the store arrives before anybody clears up.
    await taking.catch(() => undefined);
    clearTimeout(silence);
    halt();
  }
}
