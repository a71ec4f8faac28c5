import { expect, test } from "@jest/globals";
import { libraryFor } from "#core/catalogue";
import {
  commonModulations,
  frameShare,
  isChannelInBand,
  netRateMbps,
  returnFrequencyMHz,
  sensitivityDbm,
  type RadioModel,
} from "#core/radio";

const library = libraryFor("p").flatMap((item) => (item.kind === "radio" ? [item.body] : []));
const byId = (id: string) => library.find((radio) => radio.id === id)!;
const radio: RadioModel = {
  ...byId("brisote-vela-5"),
  noiseFigureDb: 6,
  efficiency: 0.8,
  duplex: "TDD",
  downShare: 0.75,
  modulations: [
    { name: "slow", snrDb: 5, bitsPerHz: 0.5, backoffDb: 0 },
    { name: "middle", snrDb: 12, bitsPerHz: 2, backoffDb: 1 },
    { name: "fast", snrDb: 25, bitsPerHz: 5, backoffDb: 4 },
  ],
};

test("sensitivity is one chain's noise floor and what the modulation needs", () => {
  // −173.975 + 73.010 + 6 + 5.
  expect(sensitivityDbm(radio, 20)).toBeCloseTo(-89.965, 2);
  expect(sensitivityDbm(radio, 20, radio.modulations[2])).toBeCloseTo(-69.965, 2);
  expect(sensitivityDbm(radio, 40) - sensitivityDbm(radio, 20)).toBeCloseTo(3.0103, 4);
});

test("a net rate is bits, width, chains, efficiency and the direction's share of the frame", () => {
  const rate = (direction: "down" | "up", chains = 2, widthMHz = 20) =>
    netRateMbps({ radio, modulation: radio.modulations[1]!, widthMHz, chains, direction });
  expect(rate("down")).toBeCloseTo(2 * 20 * 2 * 0.8 * 0.75, 9);
  expect(rate("up")).toBeCloseTo(2 * 20 * 2 * 0.8 * 0.25, 9);
  expect(rate("down", 1)).toBeCloseTo(rate("down") / 2, 9);
  expect(rate("down", 2, 80)).toBeCloseTo(rate("down") * 4, 9);
  expect(netRateMbps({ radio, modulation: null, widthMHz: 20, chains: 2, direction: "down" })).toBe(0);
});

test("in FDD each direction has all of its own frequency, whatever share the sheet names", () => {
  const fdd = { ...radio, duplex: "FDD" as const };
  expect([frameShare(fdd, "down"), frameShare(fdd, "up")]).toEqual([1, 1]);
  expect([frameShare(radio, "down"), frameShare(radio, "up")]).toEqual([0.75, 0.25]);
});

test("two radios talk in what both know: the receiver's need, the sender's back-off, the slower rate", () => {
  const other: RadioModel = {
    ...radio,
    modulations: [
      { name: "slow", snrDb: 6, bitsPerHz: 0.4, backoffDb: 0.5 },
      { name: "own", snrDb: 9, bitsPerHz: 1, backoffDb: 0 },
      { name: "fast", snrDb: 23, bitsPerHz: 6, backoffDb: 5 },
    ],
  };
  expect(commonModulations(radio, other)).toEqual([
    { name: "slow", snrDb: 6, bitsPerHz: 0.4, backoffDb: 0 },
    { name: "fast", snrDb: 23, bitsPerHz: 5, backoffDb: 4 },
  ]);
  expect(commonModulations(other, radio)).toEqual([
    { name: "slow", snrDb: 5, bitsPerHz: 0.4, backoffDb: 0.5 },
    { name: "fast", snrDb: 25, bitsPerHz: 5, backoffDb: 5 },
  ]);
  expect(commonModulations(radio, radio)).toBe(radio.modulations);
  expect(commonModulations(radio, { ...radio, modulations: [] })).toEqual([]);
});

test("the far end of an FDD pair answers above, or below where above is out of the band", () => {
  const salto = byId("kestrane-salto-80");
  expect(salto.duplexSpacingMHz).toBe(10_000);
  expect([73_500, 76_000, 76_001, 83_500].map((mhz) => returnFrequencyMHz(salto, mhz))).toEqual([
    83_500, 86_000, 66_001, 73_500,
  ]);
  expect(returnFrequencyMHz({ ...salto, duplexSpacingMHz: null }, 73_500)).toBe(73_500);
  expect(returnFrequencyMHz(radio, 5800)).toBe(5800);
});

test("a channel is in band with both of its edges, and with those of the one that answers it", () => {
  const [low, high] = radio.bandMHz;
  expect([
    isChannelInBand(radio, low + 10, 20),
    isChannelInBand(radio, low + 9, 20),
    isChannelInBand(radio, high - 10, 20),
    isChannelInBand(radio, high - 9, 20),
  ]).toEqual([true, false, true, false]);
  const salto = byId("kestrane-salto-80");
  expect([isChannelInBand(salto, 75_500, 1000), isChannelInBand(salto, 75_501, 1000)]).toEqual([true, false]);
});
