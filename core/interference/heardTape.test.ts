import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { evaluate } from "#core/evaluate";
import { heardTape, listeningIn } from "#core/interference";
import { setPatch, withPatches, type Link, type World } from "#core/plan";
import { crowd, radio, town, valley } from "#core/testing";
import type { Profile } from "#core/terrain";

/** Every transmitter that a link's tape counts, with its tape of its own. */
function* heardIn(world: World, between: (from: never, to: never) => Profile) {
  const { answers } = evaluate(world, between as never);
  const listening = listeningIn(world);
  for (const link of world.links.values()) {
    const path = answers.get(link.id)!.path;
    for (const tape of path ? [path.aToB, path.bToA] : [])
      for (const heard of tape.question.heard?.radios ?? []) {
        const own = heardTape(listening, link, tape.question.to.radio.id, heard.radioId, between as never)!;
        yield { heard, own, link };
      }
  }
}

test("the lines of whoever is heard add up to what the tape counts of it, over the ground as on a mast", () => {
  let count = 0;
  const onMast = valley(0, (rows) => {
    rows.radios.push(
      radio("second-near", { siteId: "west", heightM: 22 }),
      radio("second-far", { siteId: "east", heightM: 22 }),
    );
    rows.links.push({ ...rows.links[0]!, id: "second", aRadioId: "second-near", bRadioId: "second-far" });
  });
  const kinds = new Set<string>();
  for (const { world, between } of [valley(12, town), valley(0, crowd), onMast])
    for (const { heard, own } of heardIn(world, between)) {
      expect(own.radioId).toBe(heard.radioId);
      expect(own.arrivingDbm).toBeCloseTo(heard.dbm, 6);
      const steps = own.lines.reduce((sum, { stepDb }) => sum + (stepDb ?? 0), 0);
      expect(steps).toBeCloseTo(own.arrivingDbm, 9);
      for (const { key } of own.lines) kinds.add(key);
      count++;
    }
  expect(count).toBeGreaterThan(30);
  expect([...kinds]).toEqual(
    expect.arrayContaining(["power", "fromGain", "freeSpace", "ground", "toGain", "overlap", "mast"]),
  );
});

test("who is too weak to be looked at has no tape", () => {
  const { world, between } = valley(12, town);
  const far = withPatches(world, [setPatch("carriers", "sector-2", { frequencyMHz: 5800 })]);
  const link = far.links.get("access") as Link;
  expect(heardTape(listeningIn(far), link, "sector", "sector-2", between)).toBeNull();
});

test("the ground takes as much one way as the other: two ends alike hear each other alike", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 8, max: 30 }), (ridgeM, heightM) => {
      const { world, between } = valley(ridgeM, (rows) => {
        town(rows);
        for (const id of ["sector", "sector-2"])
          Object.assign(
            rows.radios.find((one) => one.id === id)!,
            { heightM, azimuthDeg: null, tiltDownDeg: 0 },
          );
      });
      const listening = listeningIn(world);
      const groundOf = (linkId: string, to: string, by: string) =>
        heardTape(listening, world.links.get(linkId)!, to, by, between)?.lines.find(({ key }) => key === "ground")
          ?.stepDb;
      const [there, back] = [groundOf("access", "sector", "sector-2"), groundOf("l0", "sector-2", "sector")];
      if (there === undefined || back === undefined) return;
      expect(there!).toBeCloseTo(back!, 6);
    }),
    { numRuns: 20, seed: 5 },
  );
});

test("more isolation on a mast never leaves anybody a lower signal to noise", () => {
  const snrAt = (apartM: number) => {
    const { world, between } = valley(0, (rows) => {
      rows.radios.push(
        radio("second-near", { siteId: "west", heightM: 30 - apartM }),
        radio("second-far", { siteId: "east", heightM: 30 - apartM }),
      );
      for (const one of rows.radios) if (["west-east", "east-west"].includes(one.id)) one.heightM = 30;
      rows.links.push({ ...rows.links[0]!, id: "second", aRadioId: "second-near", bRadioId: "second-far" });
    });
    const { aToB, bToA } = evaluate(world, between).answers.get("bridge")!.path!;
    return [aToB.snrDb, bToA.snrDb] as const;
  };
  for (const apartM of [0.5, 1, 2, 4, 8]) {
    const [less, more] = [snrAt(apartM), snrAt(apartM * 2)];
    expect(more[0]).toBeGreaterThanOrEqual(less[0] - 1e-9);
    expect(more[1]).toBeGreaterThanOrEqual(less[1] - 1e-9);
  }
});
