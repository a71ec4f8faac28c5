import { expect, test } from "@jest/globals";
import { radioIn, valley } from "#core/testing";
import { clientSamples, counterDelta, inOctetsOid, snmpFigures, type SnmpReading, carriedOn } from "#core/watch";

test("counters go over their end, and begin anew with their device", () => {
  expect(counterDelta(10, 25, 32, false)).toBe(15);
  expect(counterDelta(2 ** 32 - 5, 7, 32, false)).toBe(12);
  expect(counterDelta(2 ** 31, 5, 32, false)).toBeNull();
  expect(counterDelta(10, 25, 32, true)).toBeNull();
  const reading = (set: Partial<SnmpReading>): SnmpReading => ({
    ...{ atMs: 0, upHundredths: 6000, inOctets: 0, outOctets: 0, figures: {}, clients: [] },
    ...set,
  });
  const now = reading({ atMs: 60_000, upHundredths: 12_000, inOctets: 6e6, outOctets: 1.5e6 });
  expect(snmpFigures(now, reading({}))).toEqual({ uptimeMin: 2, throughputMbps: 1 });
  expect(snmpFigures(now, null)).toEqual({ uptimeMin: 2 });
  // Restarted: what passed before is not known. The clock's own end after 497 days is no restart.
  expect(snmpFigures({ ...now, upHundredths: 100 }, reading({ upHundredths: 500_000 }))).toEqual({ uptimeMin: 0 });
  expect(snmpFigures({ ...now, upHundredths: 100 }, reading({ upHundredths: 2 ** 32 - 100 }))).toHaveProperty(
    "throughputMbps",
  );
  // Nonsense is not told on.
  expect(snmpFigures(reading({ figures: { level0Dbm: 400, noiseDbm: NaN, supplyV: 24 } }), null)).toEqual({
    uptimeMin: 1,
    supplyV: 24,
  });
  expect(inOctetsOid(4)).toBe("1.3.6.1.2.1.31.1.1.1.6.4");
});

test("rows of an access point's table are its customers by address or name, whatever the case; whom they could be two of is nobody", () => {
  const { world } = valley(0, (rows) => {
    const client = radioIn(rows, "farm-radio");
    client.address = "10.0.0.7";
    for (const [id, name] of [
      ["barn", "Barn"],
      ["mill", "Shed"],
      ["shed", "shed"],
    ] as const) {
      rows.radios.push({ ...client, id, name, address: "" });
      rows.links.push({ ...rows.links.find((link) => link.id === "access")!, id: `to-${id}`, bRadioId: id });
    }
  });
  const level = (level0Dbm: number) => ({ level0Dbm });
  const { samples, strangers } = clientSamples(world, "sector", {
    atMs: 7,
    clients: [
      { who: "10.0.0.7 ", figures: level(-60) },
      { who: "BARN", figures: { level0Dbm: -61, noiseDbm: 900 } },
      { who: "Shed", figures: level(-62) },
      { who: "Nobody", figures: level(-63) },
      { who: "", figures: level(-64) },
    ],
  });
  expect(strangers).toBe(3);
  expect(samples).toEqual([
    { seriesId: "access/a", atMs: 7, values: level(-60) },
    { seriesId: "to-barn/a", atMs: 7, values: level(-61) },
  ]);
  expect(clientSamples(world, "farm-radio", { atMs: 7, clients: [{ who: "Barn", figures: level(-60) }] })).toEqual({
    samples: [],
    strangers: 1,
  });
});

test("a device's clock that runs over after 497 days is no restart, and goes on counting", () => {
  const reading = (upHundredths: number): SnmpReading => ({
    ...{ atMs: 0, upHundredths, inOctets: null, outOctets: null, figures: {}, clients: [] },
  });
  const before = reading(2 ** 32 - 3000);
  const over = carriedOn(reading(3000), before);
  expect(over.wraps).toBe(1);
  expect(snmpFigures(over, before).uptimeMin).toBe(Math.floor((3000 + 2 ** 32) / 6000));
  const later = carriedOn(reading(9000), over);
  expect(snmpFigures(later, over).uptimeMin).toBeGreaterThan(snmpFigures(over, before).uptimeMin!);
  // A restart begins anew.
  expect(snmpFigures(carriedOn(reading(100), later), later).uptimeMin).toBe(0);
});
