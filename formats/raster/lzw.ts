import { RasterError } from "./error";

/** Codes that stand for no bytes, the first that a block makes itself, and how many there can be. */
const [CLEAR, END, FIRST, MOST] = [256, 257, 258, 4096];
const [LEAST_BITS, MOST_BITS] = [9, 12];

/**
 * Unpacks one LZW block of a TIFF to `mostBytes` bytes at most. Each step uses up at least nine bits of the block, so whatever
 * stands in it the work ends with it. Throws RasterError at a code that no writer can have meant. Source: TIFF 6.0, section 13.
 */
export function unpackLzw(packed: Uint8Array, mostBytes: number): Uint8Array {
  const out = new Uint8Array(mostBytes);
  // A text is one that stood before and a byte more.
  const before = new Uint16Array(MOST);
  const [first, last] = [new Uint8Array(MOST), new Uint8Array(MOST)];
  const length = new Uint16Array(MOST).fill(1, 0, CLEAR);
  for (let byte = 0; byte < CLEAR; byte++) first[byte] = last[byte] = byte;
  let [next, width, previous] = [FIRST, LEAST_BITS, -1];
  let [at, held, heldBits, to] = [0, 0, 0, 0];
  while (to < mostBytes) {
    for (; heldBits < width; heldBits += 8) {
      if (at >= packed.length) return out.subarray(0, to);
      held = ((held << 8) | packed[at++]!) & 0xffffff;
    }
    heldBits -= width;
    const code = (held >> heldBits) & ((1 << width) - 1);
    if (code === END) break;
    if (code === CLEAR) {
      [next, width, previous] = [FIRST, LEAST_BITS, -1];
      continue;
    }
    if (previous < 0 ? code >= CLEAR : code > next || code >= MOST)
      throw new RasterError(`byte ${at} of a block: code ${code} stands for nothing yet; the block is damaged there`);
    if (previous >= 0 && next < MOST) {
      before[next] = previous;
      first[next] = first[previous]!;
      last[next] = first[code === next ? previous : code]!;
      length[next] = length[previous]! + 1;
      next++;
      // The width grows one code early.
      if (next === (1 << width) - 1 && width < MOST_BITS) width++;
    } else if (code >= next)
      throw new RasterError(`byte ${at} of a block: code ${code} stands for nothing; the block is damaged there`);
    const end = to + length[code]!;
    for (let place = end - 1, one = code; place >= to; place--, one = before[one]!)
      if (place < mostBytes) out[place] = last[one]!;
    to = Math.min(end, mostBytes);
    previous = code;
  }
  return out.subarray(0, to);
}
