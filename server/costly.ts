import type { NextFunction, Request, Response } from "express";
import PQueue from "p-queue";

/** Requests of one asker that are answered at once, and that may wait; more are sent away until some are done. */
const AT_ONCE = 12;
const MOST_WAITING = 240;
/** Askers whose queues are kept; those with nothing to do are forgotten first. */
const MOST_ASKERS = 2000;

/** Pages that somebody else's page may lead to by a link; everything else of a plan is for our own pages. */
const isOwnLink = (request: Request) =>
  request.headers["sec-fetch-mode"] === "navigate" && request.headers["sec-fetch-dest"] === "document";
/** Files that are worked out when they are asked for: even a link to one is for our own pages only. */
const IS_FILE =
  /\.(csv|pdf|json|txt|tif|kml|geojson|zip|gz|sealed)$|\/(export\/file|archive\/[^/]+|relief\/.*|profiles)$/;

/** Refuses other sites what costs work: a foreign page that asks for pictures of a plan gets nothing, and nothing is worked out. */
export function ownPagesOnly(request: Request, response: Response, next: NextFunction): void {
  const site = request.headers["sec-fetch-site"];
  const { origin, host } = request.headers;
  const isForeignOrigin = origin !== undefined && !(URL.canParse(origin) && new URL(origin).host === host);
  const isForeign = isForeignOrigin || site === "cross-site" || site === "same-site";
  if (!isForeign || !/^\/(plans|backups|archives)(\/|$)/.test(request.path)) return next();
  if (isOwnLink(request) && !IS_FILE.test(request.path)) return next();
  response.status(403).type("text").send("This is for Tejado's own pages.");
}

/** Lets each asker have some requests worked on at once and some waiting; whoever asks for more waits for his own, and nobody else does. */
export function inTurn() {
  const queues = new Map<string, PQueue>();
  const queueOf = (asker: string): PQueue => {
    const known = queues.get(asker);
    if (known) return known;
    if (queues.size >= MOST_ASKERS)
      for (const [other, { size, pending }] of queues) if (size + pending === 0) queues.delete(other);
    const made = new PQueue({ concurrency: AT_ONCE });
    queues.set(asker, made);
    return made;
  };
  return (request: Request, response: Response, next: NextFunction): void => {
    // A stream of events stays open for as long as its page does.
    if (!/^\/(plans|backups|archives)(\/|$)/.test(request.path) || request.path.endsWith("/events")) return next();
    const queue = queueOf(askerOf(request, response));
    if (queue.size >= MOST_WAITING) {
      response.setHeader("Retry-After", "2");
      response.status(429).type("text").send("Too much was asked at once. Wait a moment, then try again.");
      return;
    }
    void queue.add(
      () =>
        new Promise<void>((done) => {
          if (response.destroyed || response.writableEnded) return done();
          response.once("close", () => done());
          next();
        }),
    );
  };
}

/** Who asks: the account that is signed in, else the address. */
export const askerOf = ({ ip }: Request, { locals }: Response): string =>
  (locals.account as { id: string } | undefined)?.id ?? ip ?? "";
