import { expect, test } from "@jest/globals";
import { needsOfRadio, radiosForAntenna } from "#core/kit";
import type { RadioModel } from "#core/radio";
import { valley } from "#core/testing";

const library = valley().world;
const base = library.radioModels.get("brisote-tramo-5")!;
/** What a radio needs of one kind, with some facts of its sheet changed. */
const need = (what: string, facts: Partial<RadioModel> = {}, ruleSetId = "eu") =>
  needsOfRadio(library, { ...base, ...facts }, ruleSetId).find((one) => one.what === what);

test("power is what the radio bears, strong enough, and not bought where it lies in the box under these rules", () => {
  const fits = (facts: Partial<RadioModel>) => need("Power", { box: [], ...facts })!.fits;
  expect(fits({ powerInput: "802.3at", loadW: 20 })).toEqual(
    expect.arrayContaining(["Tornel Foco AT", "Tornel Foco BT", "Tornel Nudo 8 AT"]),
  );
  const prices = fits({ powerInput: "802.3at", loadW: 20 }).map(
    (name) => [...library.parts.values()].find(({ maker, model }) => `${maker} ${model}` === name)!.priceEur,
  );
  expect(prices).toEqual([...prices].sort((x, y) => x - y));
  expect(fits({ powerInput: "802.3at", loadW: 20 })).not.toContain("Tornel Foco AF");
  expect(fits({ powerInput: "passive24", loadW: 24 })).toEqual(["Tornel Foco 24 P"]);
  expect(fits({ powerInput: "passive24", loadW: 24.1 })).toEqual([]);
  const boxed = { what: "its injector", kind: "injector", count: 1, ruleSetIds: ["us"] };
  expect(need("Power", { box: [boxed] }, "us")!.isBoxed).toBe(true);
  expect(need("Power", { box: [boxed] }, "eu")!.isBoxed).toBe(false);
});

test("cable is as fast as the socket, earth as thick as asked, jumpers only where jacks are", () => {
  expect(need("Cable", { portMbps: 1000 })!.fits).toContain("Tornel Cuerda 5e outdoor, shielded");
  expect(need("Cable", { portMbps: 10_000 })!.fits).toEqual([
    "Tornel Hilo 2F outdoor fibre",
    "Tornel Cuerda 6A outdoor, shielded",
  ]);
  expect(need("Cable", { portMbps: 1000 })!.fits).not.toContain("Tornel Cuerda 5e indoor");
  expect(need("Earth lead", { earthMm2: 6 })!.fits).toEqual(["Tornel Tierra 6 mm²", "Tornel Tierra 16 mm²"]);
  expect(need("Earth lead", { earthMm2: 6.1 })!.fits).toEqual(["Tornel Tierra 16 mm²"]);
  expect(need("Jumpers", { joins: ["two jacks"], chains: 2 })!.asked).toBe("one for each of 2 chains");
  expect(need("Jumpers", { joins: ["smooth waveguide"] })).toBeUndefined();
});

test("antennas are in the band, of the role's shapes and of one joint; the same is told from the antenna's side", () => {
  const fits = need("Antenna")!.fits;
  expect(fits.length).toBeGreaterThan(2);
  for (const antenna of library.antennaModels.values()) {
    const isNamed = fits.includes(`${antenna.maker} ${antenna.model}`);
    expect(isNamed).toBe(radiosForAntenna(library, antenna).includes(`${base.maker} ${base.model}`));
    if (antenna.shape === "sector" || antenna.bandMHz[0] > base.bandMHz[1]) expect(isNamed).toBe(false);
  }
  expect(need("Antenna", { bandMHz: [30_000, 31_000] })!.fits).toEqual([]);
  expect(need("Antenna", { joins: ["in one piece"] })!.isBoxed).toBe(true);
  expect(need("Antenna", { joins: ["two jacks"] })!.isBoxed).toBe(false);
});

test("its own bracket lies in the box, others are for other poles; what everybody needs is told with what does it", () => {
  const bracket = need("Bracket", { poleMm: [38, 115] })!;
  expect(bracket.isBoxed).toBe(true);
  expect(bracket.asked).toContain("38 to 115 mm");
  expect(bracket.fits).toEqual(["Tornel Garra 15–45", "Tornel Garra 40–120", "Tornel Garra 100–220"]);
  // One may lie in the box, and two are needed: only what is known to be enough is told as boxed.
  const one = { what: "an arrester", kind: "arrester", count: 1, ruleSetIds: [] };
  const arresters = need("Surge arresters", { box: [one] })!;
  expect(arresters.isBoxed).toBe(false);
  expect(arresters.fits.length).toBeGreaterThan(0);
  expect(need("Power", { box: [], powerInput: "802.3af", loadW: 9 })!.asked).toBe(
    "an 802.3af injector of at least 9 W, or a switch that gives it",
  );
  expect(need("Cable", { portMbps: null })!.asked).toBe("5e, shielded or 6A, shielded or fibre");
  expect(need("Antenna", { joins: [] })!.asked).toContain("joined by what its sheet does not say");
});
