import { expect, test } from "@jest/globals";
import { firstSideLobe } from "#core/antenna";
import { judge, linkStates, readLevelsDbm, stateBy, type Verdict } from "#core/proof";
import { linkEnds, setPatch, withPatches, type LinkEnd, type Measurement, type World } from "#core/plan";
import { reading, valley } from "#core/testing";

const made = valley();
const { a, b } = linkEnds(made.world, made.world.links.get("bridge")!);
/** Floor −65 dBm, band ±3 dB: what the figures below are reckoned from. */
const plan = { ...made.world.plan, proofFloorDbm: -65, proofDeviationDb: 3 };
const BOTH_CHAINS_DB = 10 * Math.log10(2);

const judged = (aDbm: number, bDbm: number, rest: Partial<Measurement> = {}, ends: [LinkEnd, LinkEnd] = [a, b]) =>
  judge(plan, ...ends, reading(aDbm, bDbm, rest));
const kinds = ({ causes }: Verdict) => causes.map(({ kind }) => kind);

test("a second chain that nobody wrote down is taken to be like the first, on radios with two", () => {
  const lone = reading(-50, -52, { levelA1Dbm: null });
  expect(readLevelsDbm(a, b, lone).aDbm).toBeCloseTo(-50, 9);
  expect(readLevelsDbm(a, b, lone).bDbm).toBeCloseTo(-52, 9);
  const single = { ...b, model: { ...b.model, chains: 1 as const } };
  expect(readLevelsDbm(a, single, lone).aDbm).toBeCloseTo(-50 - BOTH_CHAINS_DB, 9);
});

test("a radio of four chains is judged by the power of all four", () => {
  const model = { ...a.model, chains: 4 as const };
  const four = { ...a, model };
  const even = reading(-54, -54, { levelA0Dbm: -54, levelA1Dbm: -54, levelA2Dbm: -54, levelA3Dbm: -54 });
  const alike = readLevelsDbm(four, b, even).aDbm;
  expect(alike).toBeCloseTo(-54 + 10 * Math.log10(4), 9);
  // One that is dead takes its quarter.
  const dead = readLevelsDbm(four, b, { ...even, levelA3Dbm: -94 }).aDbm;
  expect(alike - dead).toBeCloseTo(10 * Math.log10(4 / 3), 2);
});

test("what was predicted is proven: all that was judged is said with its figure, and no cause is looked for", () => {
  const fine = judged(-50.4, -48.2);
  expect(fine).toEqual({
    state: "proven",
    summary: "",
    floor: { passed: true, text: "weaker end −50.4 dBm, all chains together; floor −65.0 dBm" },
    deviation: { passed: true, text: "farthest from prediction +1.8 dB at east, band ±3 dB" },
    symmetry: { passed: true, text: "−0.4 dB at west, +1.8 dB at east: 2.2 dB apart, up to 6 is usual" },
    throughput: null,
    noise: null,
    need: null,
    worstDeviationDb: expect.closeTo(1.8, 9),
    causes: [],
  });
  expect(judged(-52.2, -50).deviation.text).toBe("farthest from prediction −2.2 dB at west, band ±3 dB");
  expect(judged(-49, -49).deviation.text).toContain("+1.0 dB at west");
});

test("each school holds to its own bound, on it and beyond it", () => {
  expect(judged(-53 + 1e-9, -53 + 1e-9).state).toBe("proven");
  const outOfBand = judged(-53.2, -53.1);
  expect(outOfBand.state).toBe("doubtful");
  expect([outOfBand.floor.passed, outOfBand.deviation.passed]).toEqual([true, false]);
  expect(outOfBand.summary).toBe("measured −3.2 dB against the prediction");
  expect(judged(-46.8, -47).deviation.passed).toBe(false);
  const under = judged(-65.2, -65.4, { expectedADbm: -65, expectedBDbm: -65 });
  expect([under.floor.passed, under.deviation.passed, under.state]).toEqual([false, true, "doubtful"]);
  expect(under.summary).toBe("−65.4 dBm at the weaker end, under the floor of −65.0");
  expect(judged(-65 + 1e-9, -64, { expectedADbm: -65, expectedBDbm: -65 }).state).toBe("proven");
  expect(judged(-70, -70)).toMatchObject({
    state: "failed",
    summary: "measured −20.0 dB against the prediction; −70.0 dBm at the weaker end, under the floor of −65.0",
  });
});

test("one direction as predicted and the other far down is no tree: the far transmitter and the near receiver are named", () => {
  const lopsided = judged(-76, -50);
  expect(lopsided.symmetry).toEqual({
    passed: false,
    text: "−26.0 dB at west, 0.0 dB at east: 26.0 dB apart, up to 6 is usual",
  });
  expect(lopsided.summary).toBe(
    "measured −26.0 dB against the prediction; −76.0 dBm at the weaker end, under the floor of −65.0; the two directions are 26 dB apart",
  );
  expect(lopsided.causes).toEqual([
    {
      kind: "oneWay",
      title: "One direction only",
      reason: "−26.0 dB at west while east reads 0.0 dB: trees, aim and distance hurt both directions alike",
      next: "Read the power that east-west at east is really set to, then its transmitter's port and jumper, then the receiver at west.",
    },
  ]);
  expect(judged(-50, -76).causes[0]!.next).toContain("power that west-east at west is really set to");
  expect(judged(-50, -56 + 1e-9).symmetry.passed).toBe(true);
  expect(judged(-50, -56.1).symmetry.passed).toBe(false);
  // Within the band at both ends, and still apart by more than both can have in common.
  const within = judge({ ...plan, proofDeviationDb: 4 }, a, b, reading(-46.4, -53.6));
  expect([within.deviation.passed, within.state]).toEqual([true, "doubtful"]);
  expect(within.summary).toBe("the two directions are 7 dB apart");
});

test("one direction stronger than planned asks for the power that its sender is set to", () => {
  const strong = judged(-51, -40);
  expect(strong.causes).toEqual([
    {
      kind: "tooStrong",
      title: "One direction is stronger than planned",
      reason: "+10.0 dB at east, −1.0 dB at west",
      next: "Read the power that west-east is really set to, and hold it against the cap.",
    },
  ]);
  expect(judged(-40, -51).causes[0]!.next).toContain("east-west is really set to");
  expect(kinds(judged(-55, -47.9))).toEqual(["oneWay"]);
  expect(kinds(judged(-60, -52))).toEqual(["oneWay"]);
});

test("throughput far under its promise makes a fine level doubtful, and the slower direction is named", () => {
  const promised = { expectedDownMbps: 100, expectedUpMbps: 50 };
  expect(judged(-50, -50, { ...promised, downMbps: 60, upMbps: 30 }).state).toBe("proven");
  const slow = judged(-50, -50, { ...promised, downMbps: 80, upMbps: 5.25 });
  expect(slow.state).toBe("doubtful");
  expect(slow.throughput).toEqual({ passed: false, text: "5.3 of 50 Mbit/s promised toward west" });
  expect(slow.summary).toBe("5.3 of 50 Mbit/s promised toward west");
  expect(slow.causes).toEqual([
    {
      kind: "slowDespiteLevel",
      title: "Slow although the level is right",
      reason: "5.3 of 50 Mbit/s promised toward west",
      next: "Read the modulation and the noise at both ends, look for a cable that has fallen back to 100 Mbit/s, and test again with nobody else on the sector.",
    },
  ]);
  expect(judged(-50, -50, { ...promised, downMbps: 59 }).throughput!.text).toBe(
    "59 of 100 Mbit/s promised toward east",
  );
  expect(judged(-50, -50, { ...promised, downMbps: 10, upMbps: 10 }).throughput!.text).toContain("10 of 100");
  expect(judged(-50, -50, { downMbps: 10 }).throughput).toBeNull();
  expect(judged(-50, -50, { expectedDownMbps: 0, downMbps: 10 }).throughput).toBeNull();
  // Where the level tells why, it is not also called slow without a reason.
  expect(kinds(judged(-58, -58, { ...promised, downMbps: 10 }))).not.toContain("slowDespiteLevel");
});

test("noise far above the planned floor has its own verdict at the end that hears it", () => {
  const planned = { expectedNoiseADbm: -95, expectedNoiseBDbm: -93 };
  expect(judged(-50, -50, { ...planned, noiseADbm: -89, noiseBDbm: -90 }).state).toBe("proven");
  const noisy = judged(-50, -50, { ...planned, noiseADbm: -88.5, noiseBDbm: -80 });
  expect(noisy.state).toBe("doubtful");
  expect(noisy.noise).toEqual({ passed: false, text: "noise +13.0 dB against the planned floor at east" });
  expect(noisy.summary).toBe("noise +13.0 dB against the planned floor at east");
  expect(noisy.causes.map(({ title, reason }) => [title, reason])).toEqual([
    ["More noise than planned", "6.5 dB above the planned floor at west"],
    ["More noise than planned", "13.0 dB above the planned floor at east"],
  ]);
  expect(noisy.causes[0]!.next).toBe("Scan, then change channel: the far end first, or it is lost.");
  expect(judged(-50, -50, { ...planned, noiseADbm: -97 }).noise!.text).toBe(
    "noise −2.0 dB against the planned floor at west",
  );
  // Noise explains slowness; both stand in the summary.
  const both = judged(-50, -50, { ...planned, noiseADbm: -80, expectedDownMbps: 100, downMbps: 10 });
  expect(kinds(both)).toEqual(["noise"]);
  expect(both.summary).toBe("10 of 100 Mbit/s promised toward east; noise +15.0 dB against the planned floor at west");
});

test("a reading without a planned floor is held against one chain's thermal noise and what the radio is set to", () => {
  // 20 MHz: −173.975 + 73.010 = −100.965 dBm, the radio's noise figure and 4 dB set on top.
  const end = { ...a, radio: { ...a.radio, interferenceDb: 4 } };
  const floor = -100.965 + end.model.noiseFigureDb + 4;
  const { noise } = judge(plan, end, b, reading(-50, -50, { noiseADbm: floor + 7 }));
  expect(noise).toEqual({ passed: false, text: "noise +7.0 dB against the planned floor at west" });
});

test("what a customer asks for is told against what arrives: twice is comfortable, and it decides nothing", () => {
  const access = linkEnds(made.world, made.world.links.get("access")!);
  const need = (downMbps: number | null, upMbps: number | null) =>
    judged(-50, -50, { downMbps, upMbps }, [access.a, { ...access.b, demand: { downMbps: 20, upMbps: 5 } }]);
  const name = access.b.placeName;
  expect(need(40, 10).need).toEqual({
    passed: true,
    text: `40 Mbit/s toward ${name} is 2.0 times the 20 asked for; 2 times is comfortable`,
  });
  expect(need(60, 7.5).need).toEqual({
    passed: false,
    text: `7.5 Mbit/s from ${name} is 1.5 times the 5.0 asked for; 2 times is comfortable`,
  });
  expect(need(60, 7.5).state).toBe(need(60, 20).state);
  expect(need(null, null).need).toBeNull();
  expect(judged(-50, -50, { downMbps: 9, upMbps: 9 }).need?.passed).toBe(false);
});

test("a chain that reads far under the other is down, whatever else the level could mean", () => {
  const down = judged(-53, -53, { levelA0Dbm: -53, levelA1Dbm: -65.5 });
  expect(down.state).toBe("doubtful");
  expect(down.summary).toBe("a chain is down");
  expect(down.causes).toEqual([
    {
      kind: "deadChain",
      title: "One chain is down",
      reason: "at west the second chain reads 12.5 dB under the other",
      next: "Check that chain's connector, jumper and port at both ends.",
    },
  ]);
  expect(judged(-53, -50, { levelB0Dbm: -62, levelB1Dbm: -50 }).causes[0]!.reason).toBe(
    "at east the first chain reads 12.0 dB under the other",
  );
  expect(judged(-50, -50, { levelB0Dbm: -51, levelB1Dbm: -62.9 }).causes).toEqual([]);
});

test("what is alike at both ends is the path's: swapped polarization, a side lobe, trees, each by its depth", () => {
  const lobe = firstSideLobe(a.antenna.azimuthCuts.V)!;
  const crossed = a.antenna.crossPolarDb;
  const swapped = judged(-50 - crossed, -51 - crossed, { expectedADbm: -50 });
  expect(swapped.causes[0]).toEqual({
    kind: "swappedPolarization",
    title: "Polarization swapped at one end",
    reason: `−${(crossed + 1).toFixed(1)} dB at both ends, near the antennas' ${crossed.toFixed(0)} dB isolation`,
    next: "Compare the marks on both feeds; turn one end by 90° or swap its two jumpers.",
  });
  expect(kinds(judged(-50 - crossed - 5.2, -50 - crossed - 5.2))).not.toContain("swappedPolarization");
  expect(kinds(judged(-50 - crossed + 5.2, -50 - crossed + 5.2))).not.toContain("swappedPolarization");
  // Of two antennas the one that keeps polarizations apart least decides.
  const poor = { ...b, antenna: { ...b.antenna, crossPolarDb: 16 } };
  expect(kinds(judged(-66, -66, {}, [a, poor]))).toContain("swappedPolarization");
  expect(kinds(judged(-63.5, -63.5, {}, [a, poor]))).not.toContain("swappedPolarization");

  const aside = judged(-50 - lobe.belowDb, -50 - lobe.belowDb);
  const found = aside.causes.filter(({ kind }) => kind === "sideLobe");
  expect(found).toHaveLength(1);
  expect(found[0]!.title).toBe("On a side lobe");
  expect(found[0]!.reason).toBe(
    `−${lobe.belowDb.toFixed(1)} dB; the first side lobe of ${a.antenna.model} lies ${lobe.belowDb.toFixed(0)} dB down, ${lobe.offsetDeg.toFixed(1)}° off in azimuth`,
  );
  expect(found[0]!.next).toBe(
    `Sweep azimuth and elevation at both ends past ±${Math.ceil(lobe.offsetDeg * 1.5)}°, through the peak and beyond, then lock and read again.`,
  );
  // Ends that differ by more than 3 dB do not stand on one lobe.
  expect(kinds(judged(-50 - lobe.belowDb, -50 - lobe.belowDb + 3.2))).not.toContain("sideLobe");
  expect(kinds(judged(-50 - lobe.belowDb, -50 - lobe.belowDb + 2.8))).toContain("sideLobe");

  const trees = judged(-54, -54.5);
  expect(trees.causes).toEqual([
    {
      kind: "foliage",
      title: "Trees, or an edge in the way",
      reason: "−4.5 dB at both ends; nothing of that size was planned for",
      next: "Look along the path from the antenna; if trees stand in it, set their depth on the link and predict again.",
    },
  ]);
  expect(kinds(judged(-45, -45))).toEqual([]);
  // Out of a narrow band, yet too little for any of them.
  expect(judge({ ...plan, proofDeviationDb: 1 }, a, b, reading(-52.5, -52.5)).causes).toEqual([]);
});

test("states follow every change that bears on a reading, and are as if each were judged anew", () => {
  const { world } = valley(0, (rows) => {
    rows.links.find(({ id }) => id === "bridge")!.state = "proven";
    rows.measurements.push(reading(-50.4, -48.2));
  });
  const anew = (of: World) => {
    const link = of.links.get("bridge")!;
    return stateBy(of.plan, link, linkEnds(of, link), [...of.measurements.values()][0]!);
  };
  let now = world;
  const seen = new Set<string>();
  for (const patch of [
    setPatch("plans", world.plan.id, { proofFloorDbm: -30 }),
    setPatch("plans", world.plan.id, { proofDeviationDb: 0.1 }),
    setPatch("sites", "west", { name: "Elsewhere" }),
    setPatch("links", "bridge", { state: "planned" }),
    setPatch("links", "bridge", { state: "proven" }),
    setPatch("plans", world.plan.id, { proofFloorDbm: -80, proofDeviationDb: 10 }),
  ]) {
    now = withPatches(now, [patch]);
    for (let again = 0; again < 2; again++) expect(linkStates(now).get("bridge")).toBe(anew(now));
    seen.add(anew(now));
  }
  expect([...seen].sort()).toEqual(["doubtful", "failed", "planned", "proven"]);
  // The world of before says what it said.
  expect(linkStates(world).get("bridge")).toBe(anew(world));
});
