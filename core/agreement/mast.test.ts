import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { earsOf, heardTape, listeningIn } from "#core/interference";
import { mastPairs, radiosOnMast } from "#core/mast";
import { radioIn, valley } from "#core/testing";

/** The valley's two radios on the western mast, close in channel, at any heights and headings, timed together or not. */
const anyMast = fc
  .record({
    heights: fc.tuple(fc.double({ min: 5, max: 40, noNaN: true }), fc.double({ min: 5, max: 40, noNaN: true })),
    azimuthDeg: fc.integer({ min: 0, max: 359 }),
    apartMHz: fc.constantFrom(0, 10, 20, 30, 40),
    polarization: fc.constantFrom("H", "V", "HV" as const),
  })
  .map(({ heights, azimuthDeg, apartMHz, polarization }) =>
    valley(0, (rows) => {
      const [sector, bridge] = [radioIn(rows, "sector"), radioIn(rows, "west-east")];
      Object.assign(sector, { heightM: heights[0], azimuthDeg, polarization });
      Object.assign(bridge, { heightM: heights[1] });
      for (const id of ["west-east", "east-west"])
        radioIn(rows, id).frequencyMHz = radioIn(rows, "sector").frequencyMHz + apartMHz;
    }),
  );

test("what one antenna does to another beside it is one figure in the mast's list, in what the receiver hears and in its tape", () => {
  let compared = 0;
  fc.assert(
    fc.property(anyMast, ({ world, between }) => {
      const pair = mastPairs(radiosOnMast(world, "west")).find(
        ({ fromId, toId }) => fromId === "west-east" && toId === "sector",
      )!;
      const link = world.links.get("access")!;
      const listening = listeningIn(world);
      const heard = earsOf(listening, between)(link).a.radios.find(({ radioId }) => radioId === "west-east");
      const told = heardTape(listening, link, "sector", "west-east", between);
      if (pair.arrivingDbm === null || !told) return;
      compared++;
      expect(told.arrivingDbm).toBeCloseTo(pair.arrivingDbm, 6);
      if (heard) expect(heard.dbm).toBeCloseTo(pair.arrivingDbm, 6);
    }),
    { numRuns: 60 },
  );
  expect(compared).toBeGreaterThan(20);
});
