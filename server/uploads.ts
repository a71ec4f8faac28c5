import type { RequestHandler } from "express";
import { noRoomFor, receiveUpload, UPLOAD_LIMIT_BYTES } from "#jobs";
import type { Store } from "#store";
import { askerOf } from "./costly";

/** Files that each asker has on their way, and how many may be: nobody fills the line alone. */
const sending = new Map<string, number>();
const MOST_AT_ONCE = 3;

/** Takes a file as the bare body of a request and answers the id under which long work finds it. */
export function uploads(store: Store): RequestHandler {
  return async (request, response) => {
    const length = Number(request.headers["content-length"] ?? NaN);
    if (!(length > 0 && length <= UPLOAD_LIMIT_BYTES)) {
      response.status(413).type("text").send(`A file has 1 to ${UPLOAD_LIMIT_BYTES} bytes and says how many.`);
      return;
    }
    const asker = askerOf(request, response);
    const already = sending.get(asker) ?? 0;
    if (already >= MOST_AT_ONCE) {
      response.setHeader("Retry-After", "30");
      response.status(429).type("text").send(`${already} files of yours are on their way. Wait until one has arrived.`);
      return;
    }
    const refused = noRoomFor(store, asker, length);
    if (refused !== null) {
      response.status(507).type("text").send(refused);
      return;
    }
    sending.set(asker, already + 1);
    try {
      response.json({ uploadId: await receiveUpload(store, asker, request) });
    } catch (error) {
      if (response.headersSent) return;
      if ((error as NodeJS.ErrnoException).code === "ENOSPC")
        response
          .status(507)
          .type("text")
          .send("The disk of this Tejado is full. Nothing of the file was kept; make room and send it again.");
      else
        response.status(400).type("text").send("The file did not arrive whole. Nothing of it was kept; send it again.");
    } finally {
      const left = (sending.get(asker) ?? 1) - 1;
      if (left > 0) sending.set(asker, left);
      else sending.delete(asker);
    }
  };
}
