import express, {
  type ErrorRequestHandler,
  type NextFunction,
  type Request,
  type RequestHandler,
  type Response,
} from "express";
import { readSamples, SamplesError } from "#formats/samples";
import { mayReport, takeSamples } from "#monitoring";
import type { Store } from "#store";
import { statedLength } from "./security";

/** Reports of devices that are worked on at once; whoever sends more is asked to wait. */
const MOST_AT_ONCE = 4000;

/** Bytes of one report: as many samples as are taken at once, with every figure told. */
const MOST_BYTES = 12 * 1024 * 1024;

/**
 * Takes samples from whoever shows a plan's token: JSON, or CSV where its type says so. What is answered as kept is on the disk. A
 * network reports many times a second, so a report goes neither through the files and routes of pages nor into their line.
 */
export function reports(store: Store): (RequestHandler | ErrorRequestHandler)[] {
  let under = 0;
  const inNumbers = (_request: Request, response: Response, next: NextFunction) => {
    if (under >= MOST_AT_ONCE) {
      response.setHeader("Retry-After", "5");
      response.status(429).type("text").send("Too many report at once. Wait a moment, then send it again.");
      return;
    }
    under++;
    response.once("close", () => under--);
    next();
  };
  const byToken = async (request: Request, response: Response, next: NextFunction) => {
    const token = /^Bearer ([\w-]{20,100})$/.exec(request.headers.authorization ?? "")?.[1];
    const may = token === undefined ? "notKnown" : await mayReport(store, planOf(request), token);
    // A plan that is not there answers like one whose token is another.
    if (may === "notKnown")
      response.status(401).type("text").send("This takes samples from whoever shows the plan's token.");
    else if (may === "simulated")
      response.status(409).type("text").send("Nothing is taken while the network is simulated.");
    else next();
  };
  const keep = async (request: Request, response: Response) => {
    const bytes = Buffer.isBuffer(request.body) ? request.body : Buffer.alloc(0);
    try {
      const samples = await readSamples(bytes, (request.headers["content-type"] ?? "").startsWith("text/csv"));
      response.setHeader("Cache-Control", "no-store");
      response.json(await takeSamples(store, planOf(request), samples, "pushed"));
    } catch (error) {
      if (!(error instanceof SamplesError)) throw error;
      response.status(400).type("text").send(`Nothing was kept: ${error.told}`);
    }
  };
  const raw = express.raw({ type: () => true, limit: MOST_BYTES, inflate: false });
  return [inNumbers, statedLength, byToken, raw, unread, keep];
}

/** A body that is packed, or that broke off. */
const unread: ErrorRequestHandler = (error, _request, response, next) => {
  if (response.headersSent) return next(error);
  response.status(400).type("text").send("Nothing was kept: samples come as plain JSON or CSV, whole and not packed.");
};

const planOf = ({ params }: Request) => String(params.planId);
