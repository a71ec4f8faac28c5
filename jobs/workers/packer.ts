// Packs a plan's archive beside the serving thread. Started by jobs/archive.ts.
import { transfer } from "comlink";
import { exposeTasks, goBehindServing } from "../../threads";
import { packArchive, type ArchiveContents } from "../packArchive";

goBehindServing();

const packer = {
  pack(contents: ArchiveContents): Uint8Array {
    const bytes = packArchive(contents);
    return transfer(bytes, [bytes.buffer as ArrayBuffer]);
  },
};
export type Packer = typeof packer;

exposeTasks(packer);
