// A worker's first step: from here on TypeScript is read as it stands. workerData names the script and what it is given.
import { workerData } from "node:worker_threads";
import { register } from "tsx/esm/api";

register();
await import(workerData.script);
