import type { ReactElement } from "react";

/** A document of @react-pdf as the bytes of its file. The package is large, so it is loaded when something is printed. */
export async function printed(document: ReactElement): Promise<Uint8Array<ArrayBuffer>> {
  const { renderToBuffer } = await import("@react-pdf/renderer");
  return new Uint8Array(await renderToBuffer(document as Parameters<typeof renderToBuffer>[0]));
}
