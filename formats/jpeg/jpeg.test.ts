import { expect, test } from "@jest/globals";
import { JpegError, stripJpeg } from "#formats/jpeg";

const segment = (marker: number, ...bytes: number[]) => [0xff, marker, 0, bytes.length + 2, ...bytes];
const [BEGIN, END] = [
  [0xff, 0xd8],
  [0xff, 0xd9],
];
const JFIF = segment(0xe0, 0x4a);
const EXIF = segment(0xe1, 0x45, 0x78);
const TABLE = segment(0xdb, 1, 2);
const SCAN = segment(0xda, 1);
/** With a stuffed byte, a restart and a filling byte in it. */
const PIXELS = [0x12, 0xff, 0x00, 0x34, 0xff, 0xd3, 0x56, 0xff, 0xff, 0x00, 0x78];
const strip = (...parts: number[][]) => [...stripJpeg(Uint8Array.from(parts.flat()))];

test("what a camera wrote, comments, and bytes behind the picture's end are cut; the picture stays", () => {
  const whole = [BEGIN, JFIF, TABLE, SCAN, PIXELS, END];
  expect(strip(...whole)).toEqual(whole.flat());
  expect(strip(BEGIN, JFIF, EXIF, segment(0xfe, 1), TABLE, SCAN, PIXELS, END)).toEqual(whole.flat());
  expect(strip(...whole, [0x50, 0x4b, 3, 4], EXIF)).toEqual(whole.flat());
});

test("between the scans of a progressive picture too", () => {
  const whole = [BEGIN, TABLE, SCAN, PIXELS, segment(0xc4, 7), SCAN, PIXELS, END];
  expect(strip(...whole)).toEqual(whole.flat());
  expect(strip(BEGIN, TABLE, SCAN, PIXELS, EXIF, segment(0xc4, 7), SCAN, PIXELS, END, [1])).toEqual(whole.flat());
});

test("a picture that was cut off is kept as far as it goes; one that is none is refused by its byte", () => {
  expect(strip(BEGIN, TABLE, SCAN, PIXELS)).toEqual([BEGIN, TABLE, SCAN, PIXELS].flat());
  expect(() => strip([0x89, 0x50])).toThrow(JpegError);
  expect(() => strip(BEGIN, [0x00])).toThrow(/byte 2: a segment should begin here/);
  expect(() => strip(BEGIN, [0xff, 0xdb, 0xff, 0xff])).toThrow(/byte 2: a segment claims 65535 bytes/);
});
