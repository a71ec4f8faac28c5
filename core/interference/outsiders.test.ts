import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { planChannels, earsNow, hurtsOf, NO_LIMITS } from "#core/channels";
import { evaluate } from "#core/evaluate";
import { inverseGeodesic } from "#core/geodesy";
import { heardTape, listeningIn } from "#core/interference";
import { checkPatches, putPatch, removePatch, withPatches, type Outsider, type Scan } from "#core/plan";
import { freeSpaceLossDb } from "#core/propagation";
import { valley } from "#core/testing";

const made = valley();
const { world, between } = made;
const CHANNEL = world.radios.get("west-east")!;
const outsider = (rest: Partial<Outsider> = {}): Outsider => ({
  ...{ id: "farm-link", planId: "valley", name: "Fish farm", latDeg: -1.03, lonDeg: 20.1, heightM: 30 },
  ...{ azimuthDeg: null, antennaModelId: null, eirpDbm: 36, timeShare: 1, notes: "" },
  ...{ frequencyMHz: CHANNEL.frequencyMHz, widthMHz: CHANNEL.widthMHz },
  ...rest,
});
const withIt = (rest: Partial<Outsider> = {}) => withPatches(world, [putPatch("outsiders", outsider(rest))]);
const bridgeOf = (some: typeof world) => evaluate(some, between).answers.get("bridge")!.path!;

describe("an outsider with a place", () => {
  test("is heard as its power, the distance and the receiver's gain toward it say", () => {
    const loud = withIt({ timeShare: 0.5 });
    const heard = bridgeOf(loud).bToA.question.heard!.radios.find(({ radioId }) => radioId === "farm-link")!;
    const west = world.sites.get("west")!;
    const { distanceM } = inverseGeodesic(west, outsider());
    const tape = heardTape(listeningIn(loud), loud.links.get("bridge")!, "west-east", "farm-link", between)!;
    const gainDbi = tape.lines.find(({ key }) => key === "toGain")!.stepDb!;
    const groundDb = tape.lines.find(({ key }) => key === "ground")?.stepDb ?? 0;
    const freeDb = freeSpaceLossDb({ distanceKm: distanceM / 1000, frequencyGHz: CHANNEL.frequencyMHz / 1000 });
    // Half of the time is 3 dB less, and a chain hears half of two polarizations.
    const byHand = 36 - 3.01 - freeDb + groundDb + gainDbi - CHANNEL.cableLossDb - 3.01;
    expect(Math.abs(heard.dbm - byHand)).toBeLessThan(0.1);
    expect(tape.arrivingDbm).toBeCloseTo(heard.dbm, 6);
    expect(bridgeOf(loud).bToA.noise.reason).toContain("the outsider Fish farm");
  });

  test("looks where it is said to look", () => {
    const antennaModelId = world.radios.get("west-east")!.antennaModelId;
    const levelAt = (azimuthDeg: number) => bridgeOf(withIt({ antennaModelId, azimuthDeg })).bToA.noise.riseDb;
    const { azimuthDeg } = inverseGeodesic(outsider(), world.sites.get("west")!);
    expect(levelAt(azimuthDeg)).toBeGreaterThan(levelAt(azimuthDeg + 90) + 3);
  });

  test("never raises a signal to noise, with more power still less", () => {
    const quiet = bridgeOf(world);
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 50 }),
        fc.double({ min: -1.1, max: -0.9, noNaN: true }),
        (eirpDbm, latDeg) => {
          const [less, more] = [
            bridgeOf(withIt({ eirpDbm, latDeg })),
            bridgeOf(withIt({ eirpDbm: eirpDbm + 6, latDeg })),
          ];
          for (const way of ["aToB", "bToA"] as const) {
            expect(less[way].snrDb).toBeLessThanOrEqual(quiet[way].snrDb + 1e-9);
            // Whether a faint one is looked at at all may change by a hair.
            expect(more[way].noise.riseDb).toBeGreaterThanOrEqual(less[way].noise.riseDb - 0.1);
          }
        },
      ),
      { numRuns: 25, seed: 11 },
    );
  });

  test("does not count twice where a scan has measured the channel", () => {
    const scan: Scan = {
      ...{
        id: "s",
        planId: "valley",
        siteId: "west",
        headingDeg: 90,
        beamwidthDeg: 360,
        gainDbi: 0,
        polarization: "H",
      },
      ...{ scannedAt: "2026-01-01T00:00:00Z", source: "test", binKHz: 1000 },
      frequenciesMHz: Array.from({ length: 60 }, (_, i) => CHANNEL.frequencyMHz - 30 + i),
      levelsDbm: Array.from({ length: 60 }, () => -110),
    };
    const scanned = withPatches(world, [putPatch("scans", scan)]);
    const both = withPatches(scanned, [putPatch("outsiders", outsider())]);
    expect(bridgeOf(both).bToA.noise.riseDb).toBeCloseTo(bridgeOf(scanned).bToA.noise.riseDb, 9);
    // Nobody has scanned at the other end.
    expect(bridgeOf(both).aToB.noise.riseDb).toBeGreaterThan(bridgeOf(scanned).aToB.noise.riseDb);
  });

  test("is among those who hurt, and channels are laid away from it", async () => {
    const { frequencyMHz, widthMHz } = world.radios.get("sector")!;
    const loud = withIt({ frequencyMHz, widthMHz, eirpDbm: 30, latDeg: -1.001, lonDeg: 20.05 });
    const [worst] = hurtsOf(loud, earsNow(loud, between));
    expect([worst!.by, worst!.victim]).toEqual(["farm-link", "sector"]);
    expect(worst!.peopleLost).toBeGreaterThan(0);
    const ask = { school: "free", workPeople: 0.01, fixedIds: [], limits: NO_LIMITS, seconds: 2 } as const;
    const plan = await planChannels(loud, ask, between);
    const moved = withPatches(loud, plan.patches).radios.get("sector")!;
    expect(Math.abs(moved.frequencyMHz - frequencyMHz)).toBeGreaterThan(widthMHz);
    expect(plan.cost).toBeLessThan(plan.costNow);
  });

  test("resembles an antenna that there is, which cannot go while it does", () => {
    const put = putPatch("outsiders", outsider({ antennaModelId: "none" }));
    expect(checkPatches(world, [put])[0]!.message).toContain('there is no antenna "none" in the library');
    const spare = { ...[...world.antennaModels.values()][0]!, id: "spare" };
    const library = withPatches(world, [
      putPatch("equipment", { kind: "antenna", id: "spare", planId: "valley", body: spare }),
      putPatch("outsiders", outsider({ antennaModelId: "spare" })),
    ]);
    expect(checkPatches(library, [removePatch("equipment", "spare")])[0]!.message).toContain("Fish farm");
  });
});
