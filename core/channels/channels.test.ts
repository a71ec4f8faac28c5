import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  channelEars,
  channelGroups,
  channelProblem,
  earsNow,
  hurtsOf,
  mergedHurts,
  NO_LIMITS,
  noiseCost,
  peopleLost,
  planChannels,
  NO_RATE_CHANGES,
  rateChanges,
  type ChannelLimits,
  unitsOf,
} from "#core/channels";
import { evaluate, evaluateAfter } from "#core/evaluate";
import { noiseSteps, rateUnder } from "#core/link";
import { checkPatches, setPatch, withPatches, worldOf } from "#core/plan";
import { groupOn, groupStretches } from "#core/propose";
import { channelCouplingDb } from "#core/spectrum";
import { plainTerrain, sampleProfile } from "#core/terrain";
import { crowd, EIGHTY_GHZ, town, valley } from "#core/testing";
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
    const hurts = hurtsOf(world, earsNow(world, between));
    const inParts = [0, 1, 2].map((index) => hurtsOf(world, earsNow(world, between, { index, of: 3 })));
    const rounded = (some: typeof hurts) =>
      some.map((one) => ({ ...one, peopleLost: Number(one.peopleLost.toFixed(9)) }));
    expect(rounded(mergedHurts(inParts))).toEqual(rounded(hurts));
    for (const { victim, by, worst, peopleLost: people } of hurts) {
      expect(people).toBeGreaterThanOrEqual(0);
      expect(worst.arrivingDbm).toBeCloseTo(worst.sentDbm + worst.couplingDb, 9);
      const [x, y] = [world.radios.get(victim)!, world.radios.get(by)!];
      expect(Math.abs(x.frequencyMHz - y.frequencyMHz)).toBeLessThanOrEqual(2.5 * (x.widthMHz + y.widthMHz));
      expect(worst.raisesDb).toBeGreaterThanOrEqual(0.1);
    }
    expect(hurts.map(({ victim, by }) => `${by} ${victim}`)).toContain("sector-2 sector");
    const apart = withPatches(world, [setPatch("carriers", "sector-2", { frequencyMHz: 5700 })]);
    const then = hurtsOf(apart, earsNow(apart, between));
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
  const ask = { workPeople: 0.25, fixedIds: ["nw"], limits: NO_LIMITS, seconds: 2 };
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
          // An access point and the loudest of its customers both.
          const milliwatts = ear.heard.reduce((all, one) => all + (one.group === by ? 10 ** (one.dbm / 10) : 0), 0);
          const coupling = channelCouplingDb({
            offsetMHz,
            txWidthMHz: 20,
            rxWidthMHz: 20,
            rejectionDb: world.radioModels.get("brisote-vela-5")!.adjacentRejectionDb,
          });
          return sum + (milliwatts > 0 ? noiseCost(ear, 10 * Math.log10(milliwatts) + coupling) : 0);
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

  test("charges each channel its own noise: what is set on the radio on the one of now alone, what a scan heard where it heard it", () => {
    const noisyMHz = 5600;
    const noisy = valley(0, (rows) => {
      town(rows);
      rows.radios.find(({ id }) => id === "sector")!.interferenceDb = 30;
      rows.scans.push({
        ...{ id: "scan", planId: rows.plan.id, siteId: "north-west", headingDeg: 90, beamwidthDeg: 360, gainDbi: 0 },
        ...{ polarization: "V", scannedAt: "2026-03-01T10:00:00.000Z", source: "test", binKHz: 1000 },
        frequenciesMHz: Array.from({ length: 700 }, (_, i) => 5160 + i),
        levelsDbm: Array.from({ length: 700 }, (_, i) => (Math.abs(5160 + i - noisyMHz) <= 10 ? -75 : -130)),
      });
    });
    const all = evaluate(noisy.world, noisy.between).answers;
    const listening = channelEars(noisy.world, groups, all, noisy.between);
    const asked = { ...ask, workPeople: 0, fixedIds: [] };
    const problem = channelProblem(noisy.world, units, listening, asked, true);
    const costOf = (id: string) => {
      const at = groups.indexOf(id);
      const costs = problem.question.ownCosts[at]!;
      return { costs, now: problem.channelsMHz[at]!.indexOf(noisy.world.radios.get(id)!.frequencyMHz), at };
    };
    const sector = costOf("sector");
    expect(sector.costs[sector.now]).toBeGreaterThan(0.2);
    const elsewhere = sector.costs.filter((_, c) => c !== sector.now);
    expect(Math.min(...elsewhere)).toBeLessThan(0.05);
    const other = costOf("sector-2");
    const near = problem.channelsMHz[other.at]!.findIndex((mhz) => Math.abs(mhz - noisyMHz) <= 10);
    const far = problem.channelsMHz[other.at]!.findIndex((mhz) => mhz > noisyMHz + 60);
    expect(other.costs[near]).toBeGreaterThan(other.costs[far]! + 0.2);
  });

  test("stays in the stretches that rules and kit leave open", () => {
    groups.forEach((id, r) => {
      const { widthMHz } = world.radios.get(id)!;
      const open = groupStretches(world, id, widthMHz);
      expect(open.length).toBeGreaterThan(0);
      for (const mhz of channelsMHz[r]!)
        expect(open.some(({ lowMHz, highMHz }) => lowMHz <= mhz - widthMHz / 2 && mhz + widthMHz / 2 <= highMHz)).toBe(
          true,
        );
    });
    expect(groupStretches(world, "sector", 7)).toEqual([]);
  });
});

describe("limits", () => {
  const units = unitsOf(world, groups, "free");
  const under = (limits: Partial<ChannelLimits>, fixedIds: readonly string[] = []) =>
    channelProblem(world, units, ears, { workPeople: 0, fixedIds, seconds: 1, limits: { ...NO_LIMITS, ...limits } });
  const isDfs = (mhz: number) => mhz + 10 > 5250 && mhz - 10 < 5725;

  test("without radar avoidance no group is laid where it is asked for, but whoever is to stay may stay there", () => {
    const { channelsMHz } = under({ allowsDfs: false });
    expect(channelsMHz.flat().some(isDfs)).toBe(false);
    expect(under({}).channelsMHz.flat().some(isDfs)).toBe(true);
    const onDfs = withPatches(world, [setPatch("carriers", "nw", { frequencyMHz: 5500 })]);
    const limits = { ...NO_LIMITS, allowsDfs: false };
    const held = channelProblem(onDfs, units, ears, { workPeople: 0, fixedIds: ["nw"], seconds: 1, limits });
    const r = groups.indexOf("nw");
    expect(held.channelsMHz[r]![held.question.fixed![r]!]).toBe(5500);
  });

  test("who has no channel without a licence stays where he is", () => {
    const licensed = valley(12, (rows) => {
      town(rows);
      for (const id of ["nw", "ne"])
        Object.assign(
          rows.radios.find((one) => one.id === id)!,
          EIGHTY_GHZ,
        );
    }).world;
    const limits = { ...NO_LIMITS, allowsLicensed: false };
    const ask = { workPeople: 0, fixedIds: [], seconds: 1, limits };
    const { channelsMHz } = channelProblem(licensed, [["nw"], ["sector"]], [], ask);
    expect(channelsMHz[0]).toEqual([EIGHTY_GHZ.frequencyMHz]);
    expect(channelsMHz[1]!.length).toBeGreaterThan(1);
  });

  test("on one mast a channel within the guard costs all who hang on either; timed together, or on two masts, it costs nothing", () => {
    const costs = (problem: ReturnType<typeof channelProblem>, x: string, y: string) => {
      const [a, b] = [groups.indexOf(x), groups.indexOf(y)].sort((i, k) => i - k) as [number, number];
      const coupling = problem.question.couplings.find((one) => one.a === a && one.b === b);
      return (xMHz: number, yMHz: number) => {
        const [aMHz, bMHz] = groups.indexOf(x) === a ? [xMHz, yMHz] : [yMHz, xMHz];
        const at = (r: number, mhz: number) => problem.channelsMHz[r]!.indexOf(mhz);
        return coupling?.costs[at(a, aMHz)]?.[at(b, bMHz)] ?? 0;
      };
    };
    // The bridge and the sector of west: 20 MHz each, so that 40 MHz between the middles leave 20.
    const [plain, guarded] = [under({}), under({ guardMHz: 20.5 })];
    const people = ["sector", "west-east"].reduce(
      (sum, id) => sum + ears.filter(({ group }) => group === id).reduce((all, one) => all + one.people / 2, 0),
      0,
    );
    expect(people).toBeGreaterThan(0);
    const more = (xMHz: number, yMHz: number) =>
      costs(guarded, "sector", "west-east")(xMHz, yMHz) - costs(plain, "sector", "west-east")(xMHz, yMHz);
    const [first] = guarded.channelsMHz[groups.indexOf("sector")]!;
    expect(more(first!, first! + 40)).toBeCloseTo(people, 9);
    expect(more(first!, first! + 60)).toBeCloseTo(0, 9);
    expect(costs(guarded, "sector", "sector-2")(first!, first! + 40)).toBe(
      costs(plain, "sector", "sector-2")(first!, first! + 40),
    );
    const timed = withPatches(world, [
      ...["sector", "west-east"].map((id) => setPatch("carriers", id, { timingGroup: "clock" })),
    ]);
    const limits = { ...NO_LIMITS, guardMHz: 20.5 };
    const together = channelProblem(timed, units, ears, { workPeople: 0, fixedIds: [], seconds: 1, limits });
    expect(costs(together, "sector", "west-east")(first!, first! + 40)).toBeCloseTo(
      costs(plain, "sector", "west-east")(first!, first! + 40),
      9,
    );
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
        { school, workPeople: 0.1, fixedIds: [], limits: NO_LIMITS, seconds: 0.6 },
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
  const { gain, lose } = rateChanges(after.world, before.summaries, after.summaries);
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
  expect(rateChanges(crowded.world, before.summaries, before.summaries)).toEqual(NO_RATE_CHANGES);
});

describe("the demo's channels", () => {
  const surface = islandSurface();
  const terrain = plainTerrain(surface);
  const demo = worldOf(demoPlan(surface));
  const over = (from: { latDeg: number; lonDeg: number }, to: { latDeg: number; lonDeg: number }) =>
    sampleProfile(terrain, from, to);
  test("are as good as the best of trying every channel of each pair that disturbs, and its facing sectors part", async () => {
    const plan = await planChannels(
      demo,
      { school: "free", workPeople: 0.2, fixedIds: [], limits: NO_LIMITS, seconds: 30 },
      over,
    );
    expect(plan.cost).toBeCloseTo(plan.lowerBound, 6);
    expect(plan.cost).toBeLessThan(plan.costNow);
    // Whoever loses a step of rate is outweighed by those who gain.
    const moved = (some: typeof plan.gain) =>
      some.reduce((sum, { people, beforeMbps, afterMbps }) => {
        const share = (i: 0 | 1) =>
          Math.abs(afterMbps[i] - beforeMbps[i]) / Math.max(afterMbps[i], beforeMbps[i], 1e-9);
        return sum + people * (share(0) + share(1));
      }, 0);
    expect(moved(plan.lose)).toBeLessThan(moved(plan.gain));
    // No single sector, moved anywhere, makes the plan better: each channel of each is tried.
    const then = withPatches(demo, plan.patches);
    const ids = channelGroups(demo);
    const listening = channelEars(demo, ids, evaluate(demo, over).answers, over);
    const { question, channelsMHz } = channelProblem(demo, unitsOf(demo, ids, "free"), listening, {
      workPeople: 0.2,
      fixedIds: [],
      limits: NO_LIMITS,
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
    expect(Math.abs(facing[0] - facing[1])).toBeGreaterThanOrEqual(40);
    const { findings } = evaluate(then, over);
    expect(findings.some(({ what }) => what.includes("Quarry mast") && what.includes("the same channel"))).toBe(false);
  });
});
