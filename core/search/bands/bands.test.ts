import { expect, test } from "@jest/globals";
import { BANDS, compareBands, type BandName, type BandRow } from "#core/search";
import { withPatches } from "#core/plan";
import { radioIn, valley, type ValleyRows } from "#core/testing";

let count = 0;
const makeId = () => `new-${count++}`;

/** All bands for one link of the valley, changed and under a ridge. */
function bands(
  change: (rows: ValleyRows) => void = () => undefined,
  { ridgeM = 0, linkId = "bridge", asked = 50 } = {},
) {
  const { world, between } = valley(ridgeM, change);
  const rows = compareBands(world, world.links.get(linkId)!, asked, between, makeId);
  return { world, rows, of: (name: BandName): BandRow => rows.find(({ band }) => band === name)! };
}
const near = (rows: ValleyRows) => void (rows.sites[1]!.lonDeg = 20.01);

test("every band has its row with a reason, those that no kit stands on last", () => {
  const { rows, of } = bands();
  expect(rows.map(({ band }) => band).sort()).toEqual(BANDS.map(({ name }) => name).sort());
  for (const { reason } of rows) expect(reason.length).toBeGreaterThan(5);
  const without = rows.findIndex(({ result }) => result === null);
  if (without >= 0)
    expect(rows.slice(without).every(({ result, patches }) => result === null && patches.length === 0)).toBe(true);
  expect(of("11 GHz")).toMatchObject({
    reason: "47 CFR style has no rule for 11190–11210 MHz",
    result: { licence: "no rule for it", frequencyMHz: 11_200 },
  });
  const few = bands((all) => {
    all.equipment = all.equipment.filter(({ kind, body }) => kind !== "radio" || body.bandMHz[0] < 7000);
  });
  expect(few.of("80 GHz")).toEqual({
    band: "80 GHz",
    result: null,
    reason: "no radio of the library works here",
    patches: [],
  });
});

test("best first: allowed, served, carrying what is asked for; among equals the cheaper", () => {
  const { rows } = bands(near);
  const grade = ({ result }: BandRow) => (result!.served ? 0 : 2) + (result!.carriesDemand ? 0 : 1);
  const answered = rows.filter(({ result }) => result?.licence !== "no rule for it" && result);
  for (let i = 1; i < answered.length; i++) {
    const [before, here] = [answered[i - 1]!, answered[i]!];
    if (before.result!.state !== here.result!.state) continue;
    expect(grade(before)).toBeLessThanOrEqual(grade(here));
    if (grade(here) === 0 && grade(before) === 0)
      expect(before.result!.costEur).toBeLessThanOrEqual(here.result!.costEur);
  }
});

test("a band that holds says what it has to spare and what it carries; one too slow says what was asked for", () => {
  const { of } = bands(near);
  const { result, reason } = of("5 GHz");
  expect(result).toMatchObject({ served: true, carriesDemand: true });
  expect(reason).toBe(
    `holds with ${(result!.marginLeftDb - 10).toFixed(1)} dB to spare and carries ${result!.downMbps.toFixed(0)} Mbit/s for €${result!.costEur.toFixed(0)}`,
  );
  const slow = bands(near, { asked: 900 }).of("5 GHz");
  expect(slow.result).toMatchObject({ served: true, carriesDemand: false });
  expect(slow.reason).toBe(
    `holds, but carries ${slow.result!.downMbps.toFixed(0)} of 900 Mbit/s it must carry, ${slow.result!.upMbps.toFixed(0)} back`,
  );
});

test("a socket that is slower than the air is said", () => {
  const { result, reason } = bands(near).of("80 GHz");
  expect(result).toMatchObject({ downMbps: 10_000, upMbps: 10_000 });
  expect(reason).toMatch(/carries 10000 Mbit\/s for €\d+: the air would carry 1\d{4}, its socket does not$/);
});

test("what does not arrive at all says so first, with its greatest loss; what is short says by how much", () => {
  const { of } = bands(undefined, { ridgeM: 2000 });
  expect(bands(undefined, { ridgeM: 150 }).of("5 GHz").reason).toMatch(
    /^0\.\d dB short of the 10 wanted: bending over what stands in the way takes 4\d\.\d dB$/,
  );
  const blocked = of("5 GHz");
  expect(blocked.result!.served).toBe(false);
  expect(blocked.reason).toMatch(
    /^does not pass: bending over what stands in the way takes \d+\.\d dB; \d+\.\d dB short of the 10 wanted$/,
  );
  const eighty = bands((rows) => void (rows.plan.rainRate001MmPerH = 120)).of("80 GHz");
  expect(eighty.reason).toMatch(/rain takes \d+\.\d dB/);
});

test("losses by cause add up to what stands between EIRP and level, but for gains", () => {
  for (const { result } of bands(undefined, { ridgeM: 40 }).rows) {
    if (!result) continue;
    for (const lossDb of Object.values(result.lossDb)) expect(lossDb).toBeGreaterThanOrEqual(0);
    expect(result.lossDb.freeSpace).toBeGreaterThan(100);
    expect(result.lossDb.walls).toBe(0);
    expect(result.lossDb.rain > 0).toBe(result.frequencyMHz > 10_000);
    expect(result.availabilityPercent).toBeLessThanOrEqual(100);
  }
});

test("a band is taken in hand with both radios on it, and then answers as it was told", () => {
  const { world, rows } = bands(near);
  for (const { result, patches } of rows) {
    if (!result) continue;
    const after = withPatches(world, patches);
    const link = after.links.get("bridge")!;
    expect(link.state).toBe("planned");
    for (const id of [link.aRadioId, link.bRadioId])
      expect(after.radios.get(id)).toMatchObject({ frequencyMHz: result.frequencyMHz, widthMHz: result.widthMHz });
  }
});

test("a customer's band on a sector that serves others gets a radio of its own beside it", () => {
  const { rows } = bands(
    (all) => {
      all.links.push({ ...all.links[1]!, id: "access-2", bRadioId: "second" });
      all.radios.push({ ...radioIn(all, "farm-radio"), id: "second" });
    },
    { linkId: "access", asked: 10 },
  );
  const [best] = rows;
  const [carrier, first] = best!.patches;
  expect(carrier).toMatchObject({ kind: "carriers", id: expect.stringMatching(/^new-/) });
  expect(first).toMatchObject({
    id: carrier!.id,
    put: { name: expect.stringMatching(/^sector, /), address: "", carrierId: carrier!.id },
  });
});
