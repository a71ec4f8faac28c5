import type { Server } from "node:http";
import { fileURLToPath } from "node:url";
import { join } from "node:path";
import { createRequestHandler } from "@react-router/express";
import compression from "compression";
import express, { type RequestHandler } from "express";
import pino from "pino";
import { pinoHttp } from "pino-http";
import { RouterContextProvider, type ServerBuild } from "react-router";
import { dropStrayTiles } from "#store";
import { planContext, warmEngine } from "#engine";
import { dropOldArchives, dropOldUploads, hasQueue, pauseWork, startWork } from "#jobs";
import { nonceInContext } from "../app/data/nonce";
import { getStore, seedDemo } from "../app/data/store.server";
import { bodyLimit, browserCookie, headers, nonce, sameOrigin } from "./security";
import { uploads } from "./uploads";
import { useBuiltThreads } from "../threads";
import { watchOverItself } from "./watchdog";

export interface StartOptions {
  port: number;
  host: string;
  demo: boolean;
  fresh: boolean;
  /** Set while developing: what answers for source files. */
  devMiddleware?: RequestHandler;
}

if (import.meta.url.endsWith(".js")) useBuiltThreads(new URL("workers/", import.meta.url));

/** When work begins that an earlier process left, ms after the start. */
const WORK_AFTER_MS = 3000;

const log = pino({ level: process.env.TEJADO_LOG ?? "warn" });

function isLoopback(host: string): boolean {
  return host === "127.0.0.1" || host === "::1" || host === "localhost";
}

/** Opens the store, lays out the demo if asked, and serves. Stops cleanly on SIGTERM and SIGINT. */
export async function start({ port, host, demo, fresh, devMiddleware }: StartOptions): Promise<{ url: string }> {
  // The pages are loaded while the database opens: the first visitor waits for neither.
  const pages = import("virtual:react-router/server-build") as unknown as Promise<ServerBuild>;
  warmEngine();
  const store = await getStore();
  if (!devMiddleware) watchOverItself();
  dropOldUploads(store);
  dropOldArchives(store);
  await dropStrayTiles(store.db);
  if (!(await hasQueue(store))) await startWork(store);
  const demoId = demo ? await seedDemo(store, fresh) : null;
  // Worked out while the pages are loaded.
  if (demoId)
    planContext(store, demoId)
      .then((context) => context?.ask("counts"))
      .catch((error: unknown) => log.error({ error }, "the demo cannot be worked out"));
  const landing = demoId ? `/plans/${demoId}` : "/";

  const app = express();
  app.disable("x-powered-by");
  app.use(pinoHttp({ logger: log, redact: ["req.headers.cookie"] }));
  app.use(nonce);
  app.use(browserCookie);
  if (!devMiddleware) app.use(headers);
  app.use(sameOrigin(isLoopback(host)));
  // Files for long work are streamed to the disk before the limit on ordinary bodies.
  app.post("/uploads", uploads(store));
  app.use(bodyLimit);
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
  }
  app.use(
    createRequestHandler({
      build: devMiddleware
        ? () => import("virtual:react-router/server-build") as unknown as Promise<ServerBuild>
        : await pages,
      getLoadContext: (_request, response) =>
        new RouterContextProvider(
          new Map([[nonceInContext, devMiddleware ? undefined : (response.locals.nonce as string)]]),
        ),
    }),
  );

  const server = await new Promise<Server>((resolve, reject) => {
    const listening = app.listen(port, host, (error) => (error ? reject(error) : resolve(listening)));
  });
  const stop = async (signal: string) => {
    log.info({ signal }, "stopping");
    server.close();
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), 2000).unref();
    await pauseWork(store);
    await store.close();
    process.exit(0);
  };
  for (const signal of ["SIGTERM", "SIGINT"] as const) process.once(signal, () => void stop(signal));
  // Nobody waits for work that an earlier process left: the first page goes first.
  const begin = () => startWork(store).catch((error: unknown) => log.error({ error }, "long work cannot be begun"));
  setTimeout(() => void begin(), WORK_AFTER_MS).unref();
  const address = server.address();
  const boundPort = typeof address === "object" && address ? address.port : port;
  return { url: `http://${host.includes(":") ? `[${host}]` : host}:${boundPort}${landing}` };
}
