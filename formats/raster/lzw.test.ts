import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { unpackLzw } from "./lzw";

/** Packs as TIFF 6.0, section 13, tells: the table is cleared once it is full. */
function pack(bytes: Uint8Array): Uint8Array {
  const out: number[] = [];
  let [held, bits] = [0, 0];
  let [width, next] = [9, 258];
  let table = new Map<string, number>();
  const put = (code: number) => {
    held = (held << width) | code;
    for (bits += width; bits >= 8; bits -= 8) out.push((held >> (bits - 8)) & 255);
    held &= (1 << bits) - 1;
  };
  const codeOf = (text: string) => (text.length === 1 ? text.charCodeAt(0) : table.get(text)!);
  put(256);
  let text = "";
  for (const byte of bytes) {
    const longer = text + String.fromCharCode(byte);
    if (longer.length === 1 || table.has(longer)) {
      text = longer;
      continue;
    }
    put(codeOf(text));
    table.set(longer, next++);
    if (next === 4095) {
      put(256);
      [width, next, table] = [9, 258, new Map()];
    } else if (next === 1 << width && width < 12) width++;
    text = String.fromCharCode(byte);
  }
  if (text !== "") put(codeOf(text));
  put(257);
  if (bits > 0) out.push((held << (8 - bits)) & 255);
  return Uint8Array.from(out);
}

test("the example of the specification: 7 7 7 8 8 7 7 6 6", () => {
  const packed = Uint8Array.from([0x80, 0x01, 0xe0, 0x40, 0x80, 0x44, 0x08, 0x0c, 0x06, 0x80, 0x80]);
  expect([...unpackLzw(packed, 9)]).toEqual([7, 7, 7, 8, 8, 7, 7, 6, 6]);
});

test("a text that is named before it is finished, tables that fill up, and blocks that are cut short", () => {
  const same = new Uint8Array(5000).fill(7);
  expect(unpackLzw(pack(same), 5000)).toEqual(same);
  const mixed = Uint8Array.from({ length: 60_000 }, (_, i) => (i * i * 31 + (i >> 5)) & 255);
  const packed = pack(mixed);
  expect(unpackLzw(packed, mixed.length)).toEqual(mixed);
  expect(unpackLzw(packed, 1000)).toEqual(mixed.subarray(0, 1000));
  const cut = unpackLzw(packed.subarray(0, packed.length >> 1), mixed.length);
  expect(cut.length).toBeGreaterThan(20_000);
  expect(cut).toEqual(mixed.subarray(0, cut.length));
});

test("a code that stands for nothing is refused by its place", () => {
  expect(() => unpackLzw(Uint8Array.from([0x80, 0x40, 0x80]), 10)).toThrow(/byte 3 of a block: code 258/);
  // Clear, 7, then 260, which is beyond the next one.
  expect(() => unpackLzw(Uint8Array.from([0x80, 0x01, 0xe0, 0x80]), 10)).toThrow(/code 260 stands for nothing yet/);
});

test("whatever stands in a block, unpacking ends, and gives no more than was asked", () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), fc.nat(3000), (bytes, most) => {
      try {
        expect(unpackLzw(bytes, most).length).toBeLessThanOrEqual(most);
      } catch (error) {
        expect((error as Error).message).toMatch(/^byte \d+ of a block: code \d+ stands for nothing/);
      }
    }),
    { numRuns: 500 },
  );
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 3000 }), (bytes) => {
      expect(unpackLzw(pack(bytes), bytes.length)).toEqual(bytes);
    }),
  );
});
