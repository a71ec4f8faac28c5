import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  channelEars,
  channelGroups,
  channelProblem,
  hurtsOf,
  noiseCost,
  peopleLost,
  planChannels,
  rankedChanges,
  unitsOf,
} from "#core/channels";
import { evaluate, evaluateAfter } from "#core/evaluate";
import { noiseSteps, rateUnder } from "#core/link";
import { checkPatches, setPatch, withPatches, worldOf } from "#core/plan";
import { groupOn, groupStretchesMHz } from "#core/propose";
import { channelCouplingDb } from "#core/spectrum";
import { plainTerrain, sampleProfile } from "#core/terrain";
import { crowd, town, valley } from "#core/testing";
import { demoPlan, islandSurface } from "#demo";

const made = valley(12, town);
const { world, between } = made;
const { answers } = evaluate(world, between);
const groups = channelGroups(world);
const ears = channelEars(world, groups, answers, between);

describe("what a direction carries under noise", () => {
  test("is its tape's rate under its tape's noise, and never rises with it", () => {
    for (const { path } of answers.values())
      for (const tape of [path!.aToB, path!.bToA]) {
        const steps = noiseSteps(tape);
        expect(rateUnder(steps, tape.noiseDbm)).toBe(tape.rateMbps);
        expect(rateUnder(steps, -300)).toBe(Math.max(...steps.map(({ rateMbps }) => rateMbps)));
        fc.assert(
          fc.property(
            fc.double({ min: -120, max: -20, noNaN: true }),
            fc.double({ min: 0, max: 30, noNaN: true }),
            (dbm, more) => {
              expect(rateUnder(steps, dbm + more)).toBeLessThanOrEqual(rateUnder(steps, dbm));
            },
          ),
          { numRuns: 30 },
        );
      }
  });

  test("with the other sector of its channel is what its tape says", () => {
    const ear = ears.find(({ group, heard }) => group === "sector" && heard.some((one) => one.group === "sector-2"))!;
    const { dbm } = ear.heard.find((one) => one.group === "sector-2")!;
    const tape = (direction: "down" | "up") => {
      const path = answers.get(ear.linkId)!.path!;
      return direction === "down" ? path.aToB : path.bToA;
    };
    const own = tape(ear.direction);
    // The two sectors share a channel in this plan: what is heard is what the tape counts.
    const heard = own.question.heard!.radios.find(({ group }) => group === "sector-2")!;
    // But for the free space of another frequency: all of a band are heard on one.
    expect(Math.abs(dbm - heard.dbm)).toBeLessThan(1);
    expect(rateUnder(ear.steps, own.noiseDbm)).toBe(own.rateMbps);
    expect(ear.quietDbm).toBeLessThan(own.noiseDbm);
  });
});

describe("the groups of a plan", () => {
  test("are access points and bridges, each direction of each link once, none hearing itself", () => {
    expect(groups).toEqual(["nw", "sector", "sector-2", "west-east"]);
    expect(ears).toHaveLength(2 * world.links.size);
    for (const { group, heard } of ears) expect(heard.every((one) => one.group !== group)).toBe(true);
    // In the same band though on other channels: bridges and sectors hear each other, were they on one.
    expect(ears.some(({ group, heard }) => group === "sector" && heard.some((one) => one.group === "west-east"))).toBe(
      true,
    );
  });

  test("hurt each other by what their channels leave, and nobody across channels that do not meet", () => {
    const hurts = hurtsOf(world, ears);
    for (const { victim, by, worst, peopleLost: people } of hurts) {
      expect(people).toBeGreaterThanOrEqual(0);
      expect(worst.arrivingDbm).toBeCloseTo(worst.sentDbm + worst.couplingDb, 9);
      const [x, y] = [world.radios.get(victim)!, world.radios.get(by)!];
      expect(Math.abs(x.frequencyMHz - y.frequencyMHz)).toBeLessThanOrEqual(2.5 * (x.widthMHz + y.widthMHz));
      expect(worst.raisesDb).toBeGreaterThanOrEqual(0.1);
    }
    expect(hurts.map(({ victim, by }) => `${by} ${victim}`)).toContain("sector-2 sector");
    const apart = withPatches(world, [setPatch("carriers", "sector-2", { frequencyMHz: 5700 })]);
    const then = hurtsOf(apart, channelEars(apart, groups, evaluate(apart, between).answers, between));
    expect(then.map(({ victim, by }) => `${by} ${victim}`)).not.toContain("sector-2 sector");
  });

  test("lose more people to more noise, all of them at the most, half of each for one direction", () => {
    for (const ear of ears) {
      expect(peopleLost(ear, -200)).toBe(0);
      expect(peopleLost(ear, -60)).toBeGreaterThanOrEqual(peopleLost(ear, -90));
      const all = rateUnder(ear.steps, ear.quietDbm) > 0 ? ear.people / 2 : 0;
      expect(peopleLost(ear, 0)).toBe(all);
    }
  });
});

describe("a plan's channels as a question", () => {
  const ask = { workPeople: 0.25, fixedIds: ["nw"], seconds: 2 };
  const units = unitsOf(world, groups, "free");
  const { question, members, channelsMHz } = channelProblem(world, units, ears, ask);

  test("costs what each pair loses on its channels, and the work of each move", () => {
    expect(members).toEqual(groups.map((id) => [id]));
    groups.forEach((id, r) => {
      const now = channelsMHz[r]!.indexOf(world.radios.get(id)!.frequencyMHz);
      expect(now).toBeGreaterThanOrEqual(0);
      question.ownCosts[r]!.forEach((cost, c) => {
        const own = groupOn(world, id, channelsMHz[r]![c]!, world.radios.get(id)!.widthMHz);
        const isTurnedDown = own.some(({ kind, set }) => kind === "radios" && set?.txPowerDbm !== undefined);
        const work = c === now ? 0 : 0.25;
        if (isTurnedDown) expect(cost).toBeGreaterThanOrEqual(work);
        else expect(cost).toBeCloseTo(work, 9);
      });
      expect(question.fixed![r]).toBe(id === "nw" ? now : null);
    });
    const [a, b] = ["sector", "sector-2"].map((id) => groups.indexOf(id)) as [number, number];
    const { costs } = question.couplings.find((one) => one.a === a && one.b === b)!;
    const own = (group: string, by: string, offsetMHz: number) =>
      ears
        .filter((ear) => ear.group === group)
        .reduce((sum, ear) => {
          const heard = ear.heard.find((one) => one.group === by);
          const coupling = channelCouplingDb({
            offsetMHz,
            txWidthMHz: 20,
            rxWidthMHz: 20,
            rejectionDb: world.radioModels.get("brisote-vela-5")!.adjacentRejectionDb,
          });
          return sum + (heard ? noiseCost(ear, heard.dbm + coupling) : 0);
        }, 0);
    for (const [ca, cb] of [
      [0, 0],
      [0, 1],
      [3, 1],
    ] as const) {
      const offset = Math.abs(channelsMHz[a]![ca]! - channelsMHz[b]![cb]!);
      expect(costs[ca]![cb]).toBeCloseTo(own("sector", "sector-2", offset) + own("sector-2", "sector", offset), 9);
    }
    expect(costs[0]![0]).toBeGreaterThan(0);
    expect(costs[0]![channelsMHz[b]!.length - 1]).toBe(0);
  });

  test("stays in the stretches that rules and kit leave open", () => {
    groups.forEach((id, r) => {
      const { widthMHz } = world.radios.get(id)!;
      const open = groupStretchesMHz(world, id, widthMHz);
      expect(open.length).toBeGreaterThan(0);
      for (const mhz of channelsMHz[r]!)
        expect(open.some(([low, high]) => low <= mhz - widthMHz / 2 && mhz + widthMHz / 2 <= high)).toBe(true);
    });
    expect(groupStretchesMHz(world, "sector", 7)).toEqual([]);
  });
});

describe("schools", () => {
  const four = valley(0, (rows) => {
    town(rows);
    const [sector, client] = [
      rows.radios.find(({ id }) => id === "sector")!,
      rows.radios.find(({ id }) => id === "farm-radio")!,
    ];
    for (const [id, azimuthDeg, siteId] of [
      ["back", 275, "west"],
      ["fore", 92, "north-west"],
    ] as const) {
      rows.radios.push({ ...sector, id, name: id, carrierId: id, azimuthDeg, siteId, heightM: 24 });
      rows.subscribers.push({
        ...rows.subscribers[0]!,
        id: `at-${id}`,
        name: id,
        latDeg: -1.003,
        lonDeg: id === "back" ? 19.992 : 20.02,
      });
      rows.radios.push({ ...client, id: `r-${id}`, name: id, subscriberId: `at-${id}`, carrierId: id });
      rows.links.push({ ...rows.links[1]!, id: `l-${id}`, aRadioId: id, bRadioId: `r-${id}` });
    }
    Object.assign(
      rows.radios.find(({ id }) => id === "sector-2")!,
      { azimuthDeg: 275 },
    );
  });
  test("lay sectors of one heading, or opposite ones of a mast, on one channel together", () => {
    const all = channelGroups(four.world);
    expect(unitsOf(four.world, all, "free").every((unit) => unit.length === 1)).toBe(true);
    expect(
      unitsOf(four.world, all, "headings")
        .filter((unit) => unit.length > 1)
        .map((unit) => unit.sort()),
    ).toEqual([
      ["back", "sector-2"],
      ["fore", "sector"],
    ]);
    expect(
      unitsOf(four.world, all, "backToBack")
        .filter((unit) => unit.length > 1)
        .map((unit) => unit.sort()),
    ).toEqual([
      ["back", "sector"],
      ["fore", "sector-2"],
    ]);
  });

  test("give plans whose sectors keep to them, timed together where they share a mast", async () => {
    for (const school of ["headings", "backToBack"] as const) {
      const plan = await planChannels(
        four.world,
        { school, workPeople: 0.1, fixedIds: [], seconds: 0.6 },
        four.between,
      );
      expect(checkPatches(four.world, plan.patches)).toEqual([]);
      const then = withPatches(four.world, plan.patches);
      for (const unit of unitsOf(four.world, channelGroups(four.world), school).filter(({ length }) => length > 1)) {
        const radios = unit.map((id) => then.radios.get(id)!);
        expect(new Set(radios.map(({ frequencyMHz }) => frequencyMHz)).size).toBe(1);
        if (school === "backToBack") {
          expect(new Set(radios.map(({ timingGroup }) => timingGroup)).size).toBe(1);
          expect(radios[0]!.timingGroup).not.toBe("");
        }
      }
      for (const { radioId, fromMHz, toMHz } of plan.moves) {
        expect(four.world.radios.get(radioId)!.frequencyMHz).toBe(fromMHz);
        expect(then.radios.get(radioId)!.frequencyMHz).toBe(toMHz);
        for (const { aRadioId, bRadioId } of then.links.values())
          if (aRadioId === radioId) expect(then.radios.get(bRadioId)!.frequencyMHz).toBe(toMHz);
      }
      expect(plan.lowerBound).toBeLessThanOrEqual(plan.cost + 1e-9);
    }
  });
});

test("who gains and who loses is what the summaries say, those with most people and most rate first", () => {
  const crowded = valley(0, crowd);
  const before = evaluate(crowded.world, crowded.between);
  const patches = groupOn(crowded.world, "sector-0", 5200, 20);
  const after = evaluateAfter(before, patches, crowded.between);
  const { gain, lose } = rankedChanges(after.world, before.summaries, after.summaries);
  for (const [some, sign] of [
    [gain, 1],
    [lose, -1],
  ] as const)
    for (const { linkId, beforeMbps, afterMbps } of some) {
      const [was, is] = [before.summaries.get(linkId)!, after.summaries.get(linkId)!];
      expect(beforeMbps).toEqual([was.downMbps, was.upMbps]);
      expect(afterMbps).toEqual([is.downMbps, is.upMbps]);
      const share = (now: number, then: number) => (now - then) / Math.max(now, then, 1e-9);
      expect(Math.sign(share(is.downMbps, was.downMbps) + share(is.upMbps, was.upMbps))).toBe(sign);
    }
  expect(rankedChanges(crowded.world, before.summaries, before.summaries)).toEqual({ gain: [], lose: [] });
});

describe("the demo's channels", () => {
  const surface = islandSurface();
  const terrain = plainTerrain(surface);
  const demo = worldOf(demoPlan(surface));
  const over = (from: { latDeg: number; lonDeg: number }, to: { latDeg: number; lonDeg: number }) =>
    sampleProfile(terrain, from, to);
  test("are as good as the best of trying every channel of each pair that disturbs, and its facing sectors part", async () => {
    const plan = await planChannels(demo, { school: "free", workPeople: 0.2, fixedIds: [], seconds: 2 }, over);
    expect(plan.cost).toBeCloseTo(plan.lowerBound, 6);
    expect(plan.cost).toBeLessThan(plan.costNow);
    expect(plan.lose).toEqual([]);
    // No single sector, moved anywhere, makes the plan better: each channel of each is tried.
    const then = withPatches(demo, plan.patches);
    const ids = channelGroups(demo);
    const listening = channelEars(demo, ids, evaluate(demo, over).answers, over);
    const { question, channelsMHz } = channelProblem(demo, unitsOf(demo, ids, "free"), listening, {
      workPeople: 0.2,
      fixedIds: [],
      seconds: 1,
    });
    const choice = ids.map((id, r) => channelsMHz[r]!.indexOf(then.radios.get(id)!.frequencyMHz));
    const costOf = (some: readonly number[]) =>
      question.ownCosts.reduce((sum, costs, r) => sum + costs[some[r]!]!, 0) +
      question.couplings.reduce((sum, { a, b, costs }) => sum + costs[some[a]!]![some[b]!]!, 0);
    expect(costOf(choice)).toBeCloseTo(plan.cost, 9);
    for (let a = 0; a < ids.length; a++)
      for (let b = a + 1; b < ids.length; b++)
        for (let ca = 0; ca < channelsMHz[a]!.length; ca++)
          for (let cb = 0; cb < channelsMHz[b]!.length; cb++) {
            const other = [...choice];
            [other[a], other[b]] = [ca, cb];
            expect(costOf(other)).toBeGreaterThanOrEqual(plan.cost - 1e-9);
          }
    const facing = ["ap-quarry-w", "ap-ridge-e"].map((id) => then.radios.get(id)!.frequencyMHz) as [number, number];
    expect(Math.abs(facing[0] - facing[1])).toBeGreaterThan(40);
    const { findings } = evaluate(then, over);
    expect(findings.some(({ what }) => what.includes("Quarry mast") && what.includes("the same channel"))).toBe(false);
  });
});
