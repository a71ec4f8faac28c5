// Sets pages beside the thread that serves them. Started by press.server.ts.
import { renderToBuffer } from "@react-pdf/renderer";
import { transfer } from "comlink";
import { exposeTasks, goBehindServing } from "../../threads";
import { DOCUMENTS, type DocumentGiven, type DocumentName } from "./documents";

goBehindServing();

const press = {
  /** One document as the bytes of its file. */
  async print<N extends DocumentName>(name: N, given: DocumentGiven<N>): Promise<Uint8Array<ArrayBuffer>> {
    const write = DOCUMENTS[name] as (given: DocumentGiven<N>) => Promise<Parameters<typeof renderToBuffer>[0]>;
    const bytes = new Uint8Array(await renderToBuffer(await write(given)));
    return transfer(bytes, [bytes.buffer]);
  },
};
export type Press = typeof press;

exposeTasks(press);
