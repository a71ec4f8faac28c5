import { expect, test } from "@jest/globals";
import { channelCouplingDb } from "#core/spectrum";

const coupling = (offsetMHz: number, txWidthMHz = 20, rxWidthMHz = 20, rejectionDb = 30) =>
  channelCouplingDb({ offsetMHz, txWidthMHz, rxWidthMHz, rejectionDb });

test("on one channel all of it disturbs but for what the mask leaves beside", () => {
  // Between the middle and half a width the mask falls by 10 dB in its last twentieth: next to nothing is lost.
  expect(coupling(0)).toBeLessThanOrEqual(0);
  expect(coupling(0)).toBeGreaterThan(-0.1);
});

test("a wider receiver hears all of a narrow channel, a narrower one its share of a wide", () => {
  expect(coupling(0, 10, 40)).toBeCloseTo(0, 1);
  // A quarter of the width: 6 dB.
  expect(coupling(0, 40, 10)).toBeCloseTo(-6.2, 0);
  expect(coupling(15, 10, 40)).toBeGreaterThan(-0.2);
});

test("half overlapped is half of the power", () => {
  expect(coupling(10)).toBeCloseTo(-3, 0);
});

test("the channel next door: what leaks by the mask and what the filter lets in", () => {
  const perfect = coupling(20, 20, 20, 300);
  // From half a width on the mask runs from −10 to −28 dB at one width, then to −40 at one and a half.
  expect(perfect).toBeLessThan(-18);
  expect(perfect).toBeGreaterThan(-28);
  const poor = coupling(20, 20, 20, 10);
  expect(poor).toBeCloseTo(10 * Math.log10(10 ** (perfect / 10) + 0.1), 6);
});

test("once the gap is as wide as the channel, the filter rejects 16 dB more; beyond the mask it alone counts", () => {
  // Edges 20 MHz apart: offset 40.
  const leaked = (offsetMHz: number) => 10 ** (coupling(offsetMHz, 20, 20, 300) / 10);
  expect(coupling(39.9)).toBeCloseTo(10 * Math.log10(leaked(39.9) + 1e-3), 6);
  expect(coupling(40)).toBeCloseTo(10 * Math.log10(leaked(40) + 10 ** -4.6), 6);
  expect(coupling(61)).toBeCloseTo(-46, 6);
});
