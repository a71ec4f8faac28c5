import { parentPort } from "node:worker_threads";
import { expose } from "comlink";
import nodeEndpoint from "comlink/dist/esm/node-adapter.mjs";

/** Lets the thread that started this one call `tasks`, through the client of threads/client.ts. */
export const exposeTasks = (tasks: object): void => expose(tasks, nodeEndpoint(parentPort!));
