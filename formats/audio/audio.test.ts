import { expect, test } from "@jest/globals";
import { AudioError, audioType } from "#formats/audio";

const bytes = (...all: number[]) => new Uint8Array(all);

test("a recording is known by its first bytes, and anything else is refused with what was found", () => {
  expect(audioType(bytes(0x1a, 0x45, 0xdf, 0xa3, 1))).toBe("audio/webm");
  expect(audioType(new TextEncoder().encode("OggS\0"))).toBe("audio/ogg");
  expect(audioType(new TextEncoder().encode("\0\0\0\u0018ftypM4A "))).toBe("audio/mp4");
  for (const other of [bytes(), bytes(0x1a, 0x45, 0xdf), bytes(0xff, 0xd8, 0xff), new TextEncoder().encode("ftyp")])
    expect(() => audioType(other)).toThrow(AudioError);
  expect(() => audioType(bytes(0xff, 0xd8))).toThrow("found ff d8");
  expect(() => audioType(bytes())).toThrow("found nothing");
});
