import { expect, test } from "@jest/globals";
import { gridAround, newLosses, sideOf, wedgeOf, WEDGES } from "#core/coverage";
import { lossesFromWire, lossesToWire } from "#wire";

test("losses travel part by part to the hundredth; what is not known stays so, and bytes of another window are refused", () => {
  const grid = gridAround({ latDeg: 38, lonDeg: 20 }, 300, 30);
  const side = sideOf(grid);
  const sent = newLosses(grid);
  for (let cell = 0; cell < side * side; cell++) {
    if (cell % 7 === 0) continue;
    sent.lossDb[cell] = 90 + cell / 13;
    sent.diffractionDb[cell] = (cell % 5) * 1.237;
    sent.tiltDownDeg[cell] = -3 + cell / 90;
  }
  const came = newLosses(grid);
  for (let wedge = 0; wedge < WEDGES; wedge++) {
    const { window } = wedgeOf(grid, wedge);
    const bytes = lossesToWire(grid, sent, window);
    lossesFromWire(bytes.slice().buffer, grid, window, came);
    expect(() => lossesFromWire(bytes.slice(6).buffer, grid, window, came)).toThrow("this window has");
  }
  for (const key of ["lossDb", "diffractionDb", "tiltDownDeg"] as const)
    for (let cell = 0; cell < side * side; cell++)
      if (cell % 7 === 0) expect(came[key][cell]).toBeNaN();
      else expect(Math.abs(came[key][cell]! - sent[key][cell]!)).toBeLessThan(0.00501);
});
