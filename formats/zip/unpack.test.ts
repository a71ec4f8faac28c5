import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, expect, test } from "@jest/globals";
import { zipSync } from "fflate";
import { unpackTo, ZipRefused, zipFiles, type UnpackBounds } from "#formats/zip";

const directory = mkdtempSync(join(tmpdir(), "tejado-unpack-"));
afterAll(() => rmSync(directory, { recursive: true, force: true }));
const BOUNDS: UnpackBounds = { totalBytes: 1e9, entries: 100, ratio: 10, freeBytes: 1_000_000 };
const unpack = (bytes: Uint8Array, bounds: Partial<UnpackBounds> = {}) => {
  const path = join(directory, "given.zip");
  writeFileSync(path, bytes);
  return unpackTo(path, join(directory, "out"), { ...BOUNDS, ...bounds });
};
const text = (of: string) => new TextEncoder().encode(of);

test("every entry lies in the folder under its number, whole, however it was packed", () => {
  const large = new Uint8Array(300_000).map((_, i) => (i * 7919) % 251);
  const files = new Map([
    ["a/one.json", text("[1]")],
    ["two.tif", large],
    ["empty", new Uint8Array()],
  ]);
  const names = unpack(zipFiles(files, (name) => name.endsWith(".tif")));
  expect([...names.keys()].sort()).toEqual([...files.keys()].sort());
  for (const [name, bytes] of files)
    expect(new Uint8Array(readFileSync(join(directory, "out", String(names.get(name)))))).toEqual(bytes);
});

test("a bomb ends at the bound of its own size, long before it is unpacked", () => {
  const bomb = zipSync({ zeros: new Uint8Array(60_000_000) });
  expect(bomb.length).toBeLessThan(100_000);
  expect(() => unpack(bomb)).toThrow(/unpacks to more than \d+ bytes, which no plan of its size does/);
  expect(() => unpack(bomb, { ratio: 1e6, totalBytes: 5_000_000 })).toThrow("more than 5000000 bytes");
});

test("too many entries, names that leave it, names that stand twice, and what is damaged or cut off are refused", () => {
  const many = zipSync(Object.fromEntries(Array.from({ length: 101 }, (_, i) => [`f${i}`, text("x")])));
  expect(() => unpack(many)).toThrow("more than 100 entries");
  for (const name of ["../out", "/etc/x", "a\\b", "c:x", "a/../../b"])
    expect(() => unpack(zipSync({ [name]: text("x") }))).toThrow("points outside of it");
  const good = zipFiles(new Map([["one", new Uint8Array(50_000).map((_, i) => (i * 31) % 256)]]), () => false);
  for (const share of [0.2, 0.5, 0.9]) {
    const error = refusal(good.slice(0, Math.floor(good.length * share)));
    expect(error).toBeInstanceOf(ZipRefused);
    expect((error as Error).message).not.toMatch(/undefined|invalid|unexpected|Error/);
  }
  expect(refusal(text("no archive at all, but text"))).toBeInstanceOf(ZipRefused);
});

function refusal(bytes: Uint8Array): unknown {
  try {
    unpack(bytes);
    return null;
  } catch (error) {
    return error;
  }
}
