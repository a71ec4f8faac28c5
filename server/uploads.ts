import type { RequestHandler } from "express";
import { receiveUpload, UPLOAD_LIMIT_BYTES } from "#jobs";
import type { Store } from "#store";

/** Takes a file as the bare body of a request and answers the id under which long work finds it. */
export function uploads(store: Store): RequestHandler {
  return async (request, response) => {
    const length = Number(request.headers["content-length"] ?? NaN);
    if (!(length > 0 && length <= UPLOAD_LIMIT_BYTES)) {
      response.status(413).type("text").send(`A file has 1 to ${UPLOAD_LIMIT_BYTES} bytes and says how many.`);
      return;
    }
    try {
      response.json({ uploadId: await receiveUpload(store, request) });
    } catch {
      if (!response.headersSent)
        response.status(400).type("text").send("The file did not arrive whole. Nothing of it was kept; send it again.");
    }
  };
}
