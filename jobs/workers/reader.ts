// Reads files from outside in a process of its own: whatever a damaged one does ends here. Started by jobs/reader.ts.
import { FileRefused } from "#formats/refused";
import { goBehindServing } from "../../threads";
import { readArchive, type ArchiveOrder } from "./readArchive";
import { readRasters, type RasterOrder } from "./readRasters";
import { tell, type ReaderMessage } from "./tell";

export type ReaderOrder = RasterOrder | ArchiveOrder;

goBehindServing();

async function work(order: ReaderOrder): Promise<void> {
  let outcome: ReaderMessage = { kind: "finished" };
  try {
    await (order.kind === "archive" ? readArchive(order) : readRasters(order));
  } catch (error) {
    outcome =
      error instanceof FileRefused
        ? { kind: "failed", message: error.message, todo: error.todo }
        : { kind: "failed", message: "what it holds is damaged, or of a kind that is not read here", todo: "" };
  }
  await tell(outcome);
  process.disconnect();
}

process.once("message", (order: ReaderOrder) => void work(order));
// Nobody is left to read for.
process.once("disconnect", () => process.exit());
