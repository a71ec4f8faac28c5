// Packs a plan's archive beside the serving thread. Started by jobs/archive.ts.
import { parentPort, workerData } from "node:worker_threads";
import { goBehindServing } from "../../threads";
import { packArchive, type ArchiveContents } from "../packArchive";

goBehindServing();
const bytes = packArchive(workerData as ArchiveContents);
parentPort!.postMessage(bytes, [bytes.buffer as ArrayBuffer]);
