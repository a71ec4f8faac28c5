import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import express from "express";
import type { Store } from "#store";
import { reports } from "./reports";

/**
 * A door at which stand-ins report: what devices meet at the address of samples, on this machine alone and without the names and the
 * certificate by which Tejado is called from outside.
 */
export async function openStandInDoor(store: Store): Promise<(planId: string) => string> {
  const app = express().disable("x-powered-by");
  app.post("/plans/:planId/watch/samples", ...reports(store));
  const server = createServer(app);
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(0, "127.0.0.1", resolve);
  });
  server.unref();
  const { port } = server.address() as AddressInfo;
  return (planId) => `http://127.0.0.1:${port}/plans/${encodeURIComponent(planId)}/watch/samples`;
}
