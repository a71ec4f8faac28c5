import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { leastLossByCosine, partOf, patternLossDb, POLARIZATIONS, type AntennaModel } from "#core/antenna";
import { libraryFor } from "#core/catalogue";

const antennas = libraryFor("p").flatMap((item): AntennaModel[] => (item.kind === "antenna" ? [item.body] : []));
const cosineOf = (offDeg: number) => Math.cos((offDeg * Math.PI) / 180);

test("nowhere within a part does a pattern lose less than its bound, and on one of both sides it loses just that", () => {
  const bounds = antennas.map((antenna) => POLARIZATIONS.map((one) => leastLossByCosine(antenna, one)));
  fc.assert(
    fc.property(
      fc.nat(antennas.length - 1),
      fc.nat(POLARIZATIONS.length - 1),
      fc.double({ min: -540, max: 540, noNaN: true }),
      (i, j, offDeg) => {
        const bound = bounds[i]![j]![partOf(cosineOf(offDeg))]!;
        expect(patternLossDb(antennas[i]!, POLARIZATIONS[j]!, offDeg, 0)).toBeGreaterThanOrEqual(bound - 1e-9);
      },
    ),
    { numRuns: 3000 },
  );
  for (const antenna of antennas) {
    const part = partOf(cosineOf(40.3));
    const fine: number[] = [];
    for (let offDeg = 30; offDeg < 50; offDeg += 0.001)
      if (partOf(cosineOf(offDeg)) === part)
        fine.push(patternLossDb(antenna, "HV", offDeg, 0), patternLossDb(antenna, "HV", -offDeg, 0));
    expect(Math.min(...fine) - leastLossByCosine(antenna, "HV")[part]!).toBeLessThan(0.02);
  }
});

test("every cosine lies in a part, the ends and what rounding makes of them too", () => {
  expect([-1.0000001, -1, 1, 1.0000001].map(partOf)).toEqual([0, 0, 255, 255]);
  expect(partOf(0)).toBe(128);
});
