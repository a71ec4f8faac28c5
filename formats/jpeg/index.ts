import { refusedUsually } from "../refused";

/** Thrown for bytes that are no JPEG. */
export class JpegError extends refusedUsually("Save the picture anew as JPEG and bring it again.") {}

const MARKERS_KEPT_AS_THEY_ARE = new Set([0xe0, 0xee]);

const hex = (byte: number | undefined) => (byte === undefined ? "nothing" : byte.toString(16).padStart(2, "0"));

const [START_OF_SCAN, END_OF_IMAGE] = [0xda, 0xd9];

/** Where a scan's compressed data end: at the next marker that is neither a stuffed byte, a filling one, nor a restart. */
function scanEnd(bytes: Uint8Array, from: number): number {
  for (let at = from; at + 1 < bytes.length; at++) {
    if (bytes[at] !== 0xff) continue;
    const next = bytes[at + 1]!;
    if (next !== 0 && next !== 0xff && !(next >= 0xd0 && next <= 0xd7)) return at;
  }
  return bytes.length;
}

/**
 * A JPEG without what its camera wrote about place, time and maker: all application segments but those that decoders
 * need (JFIF and Adobe's colour transform), all comments, and whatever stands behind the picture's end, are dropped. Throws JpegError naming the byte.
 */
export function stripJpeg(bytes: Uint8Array): Uint8Array {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8)
    throw new JpegError(`byte 0: a JPEG begins with ff d8, found ${hex(bytes[0])} ${hex(bytes[1])}`);
  const parts: Uint8Array[] = [bytes.subarray(0, 2)];
  let at = 2;
  for (;;) {
    if (bytes[at] !== 0xff)
      throw new JpegError(`byte ${at}: a segment should begin here with ff, found ${hex(bytes[at])}`);
    const marker = bytes[at + 1]!;
    if (marker === undefined)
      throw new JpegError(`byte ${at}: the file ends within a segment, whose length was expected`);
    if (marker === END_OF_IMAGE) {
      parts.push(bytes.subarray(at, at + 2));
      break;
    }
    const length = (bytes[at + 2]! << 8) | bytes[at + 3]!;
    if (!(length >= 2) || at + 2 + length > bytes.length)
      throw new JpegError(`byte ${at}: a segment claims ${length} bytes; the file has ${bytes.length - at - 2} more`);
    const isApplication = marker >= 0xe0 && marker <= 0xef;
    if ((!isApplication || MARKERS_KEPT_AS_THEY_ARE.has(marker)) && marker !== 0xfe)
      parts.push(bytes.subarray(at, at + 2 + length));
    at += 2 + length;
    if (marker !== START_OF_SCAN) continue;
    const end = scanEnd(bytes, at);
    parts.push(bytes.subarray(at, end));
    at = end;
    // A picture that was cut off within its scan is shown as far as it goes.
    if (at >= bytes.length) break;
  }
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let offset = 0;
  for (const part of parts) {
    whole.set(part, offset);
    offset += part.length;
  }
  return whole;
}
