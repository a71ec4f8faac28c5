import { createServer, type Server } from "node:http";
import { createServer as createTlsServer } from "node:https";
import { fileURLToPath } from "node:url";
import { join } from "node:path";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express, { type RequestHandler } from "express";
import pino from "pino";
import { pinoHttp } from "pino-http";
import { RouterContextProvider, type ServerBuild } from "react-router";
import { dropStrayTiles, hasAccounts, type Account } from "#store";
import { planContext, warmEngine } from "#engine";
import { dropOldArchives, dropOldUploads, hasQueue, pauseWork, startWork } from "#jobs";
import { accessInContext } from "../app/access/context";
import { nonceInContext } from "../app/requests/nonce";
import { getStore, seedDemo } from "../app/requests/store.server";
import { account, signedIn } from "./account";
import { inTurn, ownPagesOnly } from "./costly";
import { reports } from "./reports";
import { hostNames, isLoopback, knownHost } from "./hosts";
import {
  browserCookie,
  headers,
  namedProxy,
  nonce,
  permissions,
  plainAddress,
  sameOrigin,
  statedLength,
} from "./security";
import { securityText } from "./securityText";
import { uploads } from "./uploads";
import { useBuiltThreads } from "../threads";
import { watchOverItself } from "./watchdog";
import { backUpEachDay } from "./daily";
import { lookEachHour, pollEachMinute } from "./watching";

export interface StartOptions {
  port: number;
  host: string;
  /** Names by which browsers may call it, besides the host itself. */
  names: readonly string[];
  /** Proxies before it that say truly who asks; 0 for none. */
  behindProxy: number;
  /** Its own certificate and key, PEM. */
  tls: { cert: Buffer; key: Buffer } | null;
  /** Whom to tell of a hole, as an address that begins with mailto: or https:; null where nobody said. */
  contact: string | null;
  demo: boolean;
  fresh: boolean;
  /** Set while developing: what answers for source files. */
  devMiddleware?: RequestHandler;
}

if (import.meta.url.endsWith(".js")) useBuiltThreads(new URL("workers/", import.meta.url));

/** When work begins that an earlier process left, ms after the start. */
const WORK_AFTER_MS = 3000;

/** How long a server that stops gives to requests under way, ms. */
const LAST_ANSWERS_MS = 500;

const NO_ACCOUNT = `Tejado would answer others than the person at this machine, and nobody has an account to sign in with.
Make the first one:  npm run account -- --login ana --name "Ana Ruiz"
or leave --host and --behind-proxy out, and Tejado answers this machine only.`;

const log = pino({ level: process.env.TEJADO_LOG ?? "warn" });

/** Thrown where Tejado would answer others than the person at its machine and nobody could sign in. */
export class NobodyCanSignIn extends Error {
  override name = "NobodyCanSignIn";
}

/** What of an error is logged: never the rows that one of the database carries along. */
const told = (error: unknown) => ({ stack: error instanceof Error ? error.stack : "no error" });

/** Opens the store, lays out the demo if asked, and serves. Stops cleanly on SIGTERM and SIGINT. */
export async function start(options: StartOptions): Promise<{ url: string }> {
  const { port, host, behindProxy, tls, contact, demo, fresh, devMiddleware } = options;
  const isOpen = !isLoopback(host) || behindProxy > 0;
  const isSecure = tls !== null || behindProxy > 0;
  const names = hostNames(options);
  // The pages are loaded while the database opens: the first visitor waits for neither.
  const pages = import("virtual:react-router/server-build") as unknown as Promise<ServerBuild>;
  warmEngine();
  const store = await getStore();
  if (isOpen && !(await hasAccounts(store.db))) {
    await store.close();
    throw new NobodyCanSignIn(NO_ACCOUNT);
  }
  if (!devMiddleware) watchOverItself(() => store.db.turns());
  dropOldUploads(store);
  dropOldArchives(store);
  await dropStrayTiles(store.db);
  if (!(await hasQueue(store))) await startWork(store);
  const demoId = demo ? await seedDemo(store, fresh) : null;
  // Worked out while the pages are loaded.
  if (demoId)
    planContext(store, demoId)
      .then((context) => context?.ask("counts"))
      .catch((error: unknown) => log.error(told(error), "the demo cannot be worked out"));
  const landing = demoId ? `/plans/${demoId}` : "/";

  const app = express();
  app.disable("x-powered-by");
  if (behindProxy > 0) app.set("trust proxy", behindProxy);
  app.use(pinoHttp({ logger: log, redact: ["req.headers.cookie"] }));
  app.use(nonce);
  app.use(browserCookie);
  if (!devMiddleware) app.use(headers, permissions);
  app.set("case sensitive routing", true);
  app.use(plainAddress);
  app.get("/.well-known/security.txt", securityText(contact));
  app.use(knownHost(names));
  if (behindProxy > 0) app.use(namedProxy);
  app.use(sameOrigin);
  app.use(ownPagesOnly);
  app.post("/plans/:planId/watch/samples", ...reports(store));
  app.use(
    compression({
      filter: (request, response) =>
        compression.filter(request, response) || response.getHeader("content-type") === "application/octet-stream",
    }),
  );
  if (devMiddleware) app.use(devMiddleware);
  else {
    const client = fileURLToPath(new URL("../client", import.meta.url));
    app.use("/assets", express.static(join(client, "assets"), { immutable: true, maxAge: "1y" }));
    app.use(express.static(client, { maxAge: "1h" }));
    const field = fileURLToPath(new URL("../field", import.meta.url));
    app.use("/field/assets", express.static(join(field, "assets"), { immutable: true, maxAge: "1y" }));
    // The page itself and its worker are asked for each time there is signal: a phone must not stay behind the desk.
    app.use("/field", express.static(field, { maxAge: 0 }));
  }
  // Nobody is looked up for what everybody may have.
  if (isOpen) app.use(account(store, isSecure));
  app.use(inTurn());
  // Files for long work are streamed to the disk before the bounds of ordinary bodies.
  app.post("/uploads", ...(isOpen ? [signedIn] : []), uploads(store));
  app.use(statedLength);
  app.use(
    createRequestHandler({
      build: devMiddleware
        ? () => import("virtual:react-router/server-build") as unknown as Promise<ServerBuild>
        : await pages,
      getLoadContext: (request, response) => {
        const context = new RouterContextProvider();
        context.set(nonceInContext, devMiddleware ? undefined : (response.locals.nonce as string));
        const signed = (response.locals.account ?? null) as Account | null;
        context.set(accessInContext, { isOpen, isSecure, account: signed, address: request.ip ?? "" });
        return context;
      },
    }),
  );

  const server = await new Promise<Server>((resolve, reject) => {
    const made = tls ? createTlsServer(tls, app) : createServer(app);
    made.once("error", reject);
    made.listen(port, host, () => resolve(made));
  });
  const stop = async (signal: string) => {
    log.info({ signal }, "stopping");
    // What is being answered still needs the database; whoever only listens is sent away.
    const answered = new Promise((resolve) => server.close(resolve));
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), LAST_ANSWERS_MS).unref();
    await Promise.all([pauseWork(store), answered]);
    await store.close();
    process.exit(0);
  };
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.once(signal, () => void stop(signal));
  // Nobody waits for work that an earlier process left: the first page goes first.
  const begin = () => startWork(store).catch((error: unknown) => log.error(told(error), "long work cannot be begun"));
  setTimeout(() => void begin(), WORK_AFTER_MS).unref();
  backUpEachDay(store, (error) => log.error(told(error), "the daily backup failed"));
  lookEachHour(store, (error) => log.error(told(error), "the watch could not look"));
  pollEachMinute(store, (error) => log.error(told(error), "devices could not be asked"));
  const address = server.address();
  const boundPort = typeof address === "object" && address ? address.port : port;
  return { url: `${tls ? "https" : "http"}://${host.includes(":") ? `[${host}]` : host}:${boundPort}${landing}` };
}
