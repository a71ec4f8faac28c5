import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { isRouteErrorResponse, ServerRouter, type EntryContext, type RouterContextProvider } from "react-router";
import { NonceContext, nonceInContext } from "./requests/nonce";

const GIVE_UP_AFTER_MS = 10_000;

/** What of an error goes into the log: where it happened, never the rows that a database error carries along. */
const stackOf = (error: unknown): string => (error instanceof Error ? (error.stack ?? error.message) : "no error");

/** Logs what Tejado itself stumbled over; refusals, and requests that were given up, are no news. */
export function handleError(error: unknown, { request }: { request: Request }): void {
  if (request.signal.aborted || isRouteErrorResponse(error)) return;
  console.error(stackOf(error));
}

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  context: EntryContext,
  loadContext: RouterContextProvider,
): Promise<Response> {
  const nonce = loadContext.get(nonceInContext);
  return new Promise((resolve, reject) => {
    const readyEvent = isbot(request.headers.get("user-agent") ?? "") ? "onAllReady" : "onShellReady";
    let failed = false;
    const { pipe, abort } = renderToPipeableStream(
      <NonceContext.Provider value={nonce}>
        <ServerRouter context={context} url={request.url} nonce={nonce} />
      </NonceContext.Provider>,
      {
        nonce,
        [readyEvent]() {
          const body = new PassThrough();
          headers.set("Content-Type", "text/html; charset=utf-8");
          resolve(new Response(createReadableStreamFromReadable(body), { headers, status: failed ? 500 : status }));
          pipe(body);
        },
        onShellError: reject,
        onError(error) {
          failed = true;
          console.error(stackOf(error));
        },
      },
    );
    setTimeout(abort, GIVE_UP_AFTER_MS);
  });
}
