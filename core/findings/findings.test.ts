import { expect, test } from "@jest/globals";
import { evaluate, reviewPlan, workOut } from "#core/evaluate";
import { answerOf, isLinkServed, outcomeOf, summarize } from "#core/outcome";
import { proposeAccess, proposeBridge } from "#core/propose";
import { ruleBreaks } from "#core/findings";
import { radioPatches, removePatch, checkPatches, mergePatches, withPatches, type Link } from "#core/plan";
import { ruleSetById, ruleSetOf } from "#core/regulation";
import { coverCode } from "#core/terrain";
import { radioIn, valley, type Valley } from "#core/testing";

const review = (made: Valley) => reviewPlan(made.world, made.between);
const kinds = (made: Valley) => review(made).findings.map((finding) => finding.check);

test("a sound plan has nothing to say", () => {
  expect(kinds(valley())).toEqual([]);
});

test("each fault of the slice is found, with a number", () => {
  const cases: [string, Valley][] = [
    ["blocked", valley(60)],
    ["tight", valley(13)],
    ["overEirp", valley(0, (rows) => void (radioIn(rows, "sector").txPowerDbm = 27))],
    [
      "weak",
      valley(0, (rows) =>
        Object.assign(rows.subscribers[0]!, { behind: "thermally_efficient", latDeg: -1.01, lonDeg: 20.11 }),
      ),
    ],
    ["polarization", valley(0, (rows) => void (radioIn(rows, "farm-radio").polarization = "V"))],
    ["tooHigh", valley(0, (rows) => void (radioIn(rows, "east-west").heightM = 55))],
    ["outOfBand", valley(0, (rows) => rows.radios.forEach((radio) => (radio.frequencyMHz = 6000)))],
    ["uncovered", valley(0, (rows) => rows.radios.forEach((radio) => (radio.frequencyMHz = 5400)))],
  ];
  for (const [kind, made] of cases) {
    const finding = review(made).findings.find((one) => one.check === kind);
    expect([kind, finding?.what]).toEqual([kind, expect.stringMatching(/\d/)]);
  }
});

test("every remedy, applied, resolves its finding and brings no worse one", () => {
  for (const made of [
    valley(13),
    valley(28),
    valley(0, (rows) => void (radioIn(rows, "sector").txPowerDbm = 27)),
    valley(0, (rows) => void (radioIn(rows, "farm-radio").polarization = "V")),
  ]) {
    // The farm's own roof may be too low for the ridge; the bridge's masts are not.
    const findings = review(made).findings.filter(
      ({ linkId, check: kind }) => linkId === "bridge" || kind === "overEirp" || kind === "polarization",
    );
    expect(findings.length).toBeGreaterThan(0);
    for (const finding of findings) {
      expect(finding.remedies!.length).toBeGreaterThan(0);
      for (const remedy of finding.remedies!) {
        const world = withPatches(made.world, remedy.patches);
        expect(checkPatches(made.world, remedy.patches)).toEqual([]);
        expect(reviewPlan(world, made.between).findings.map((one) => one.id)).not.toContain(finding.id);
      }
    }
  }
});

test("findings rank by people, and a bridge counts everybody behind it", () => {
  const made = valley(13, (rows) => {
    radioIn(rows, "farm-radio").polarization = "V";
    // The farm now hangs on the far site, so that the tight bridge carries it.
    radioIn(rows, "sector").siteId = "east";
    radioIn(rows, "sector").azimuthDeg = 275;
    rows.subscribers[0]!.lonDeg = 20.09;
  });
  const { findings } = review(made);
  const tight = findings.find((one) => one.check === "tight" && one.linkId === "bridge");
  expect(tight!.people).toBe(3);
  const people = findings.map((one) => one.people);
  expect(people).toEqual([...people].sort((x, y) => y - x));
});

test("a subscriber is served only when its site is fed", () => {
  const made = valley();
  expect(review(made).outcome).toMatchObject({ customersServed: 1, peopleServed: 3 });
  const cut = valley(0, (rows) => rows.sites.forEach((site) => (site.isFeed = site.id === "east")));
  expect(review(cut).outcome.customersServed).toBe(1);
  const broken = valley(90, (rows) => rows.sites.forEach((site) => (site.isFeed = site.id === "east")));
  expect(review(broken).outcome.customersServed).toBe(0);
});

test("a proposed link works on open ground, within the caps", () => {
  let count = 0;
  const made = valley(0, (rows) => {
    rows.links = [];
    rows.radios = [];
  });
  for (const patches of [
    proposeAccess(
      made.world,
      made.world.sites.get("west")!,
      made.world.subscribers.get("farm")!,
      () => `new-${count++}`,
    ),
    proposeBridge(made.world, made.world.sites.get("west")!, made.world.sites.get("east")!, () => `new-${count++}`),
  ]) {
    expect(checkPatches(made.world, patches!)).toEqual([]);
    const world = withPatches(made.world, patches!);
    const link = patches!.at(-1)!.put as Link;
    const answer = answerOf(world, link, made.between);
    expect(isLinkServed(world, link, answer)).toBe(true);
    expect(answer.path!.aToB.overCapDb).toBe(0);
    expect(answer.path!.bToA.overCapDb).toBe(0);
    expect(outcomeOf(world, new Map([[link.id, summarize(world, link, answer)]])).costEur).toBeGreaterThan(0);
  }
});

test("patches merge by row, the later one wins, and the kept world stays as it was", () => {
  const made = valley();
  const sector = made.world.radios.get("sector")!;
  const step = (heightM: number) => radioPatches(made.world, { ...sector, heightM });
  const merged = mergePatches(step(31), step(32));
  expect(merged).toHaveLength(1);
  expect(withPatches(made.world, merged).radios.get("sector")!.heightM).toBe(32);
  expect(made.world.radios.get("sector")!.heightM).toBe(30);
  expect(checkPatches(made.world, step(41))[0]!.message).toBe("sector: 41 m is above the 40 m that west offers");
});

test("in a large plan remedies are worked out for what hurts most, the others when they are asked for", () => {
  const made = valley(45);
  const evaluation = evaluate(made.world, made.between);
  const all = reviewPlan(made.world, made.between).findings;
  const few = reviewPlan(made.world, made.between, 1).findings;
  expect(few.map(({ id }) => id)).toEqual(all.map(({ id }) => id));
  expect(few.map(({ remedies }) => remedies !== null)).toEqual(all.map((_, i) => i === 0));
  for (const { id, remedies } of all) expect(workOut(evaluation, id, made.between)).toEqual(remedies);
  expect(workOut(evaluation, "bridge:none:", made.between)).toBeNull();
  expect(workOut(evaluation, "gone:blocked:", made.between)).toBeNull();
});

test("a rule set lists every transmitter that it would break, with the figure", () => {
  const made = valley(0, (rows) => void (radioIn(rows, "west-east").txPowerDbm = 27));
  const { answers } = review(made);
  expect(ruleBreaks(made.world, answers, ruleSetById("cfr47")).map(({ radioId }) => radioId)).toEqual([]);
  const en = ruleBreaks(made.world, answers, ruleSetById("en"));
  expect(en.map(({ radioId }) => radioId).sort()).toEqual(["east-west", "farm-radio", "sector", "west-east"]);
  expect(en.find(({ radioId }) => radioId === "west-east")!.what).toMatch(/56\.\d dBm EIRP against 36\.0/);
  const own = ruleBreaks(made.world, answers, ruleSetOf({ ruleSetId: "own", ownRules: [] }));
  expect(own).toHaveLength(4);
  expect(own[0]!.what).toContain("no rule for 5790–5810 MHz");
});

test("outdoors in an indoor band, and beyond a radio's timing, are faults with their figures", () => {
  const indoor = valley(0, (rows) => {
    rows.plan.ruleSetId = "en";
    for (const radio of rows.radios) Object.assign(radio, { frequencyMHz: 5200, txPowerDbm: 0 });
  });
  expect(kinds(indoor)).toContain("indoorOnly");
  const far = valley(0, (rows) => {
    for (const item of rows.equipment) if (item.kind === "radio") item.body.rangeLimitKm = 5;
  });
  const finding = review(far).findings.find(({ check: kind }) => kind === "tooFar")!;
  expect(finding.what).toMatch(/^6\.70 km is beyond the 5 km/);
});

test("kit in use cannot be taken out of the library; kit that is not, can", () => {
  const { world } = valley();
  const removal = (id: string) => checkPatches(world, [removePatch("equipment", id)]);
  expect(removal("brisote-tramo-5")[0]!.message).toBe("Tramo 5 is in use by 2 radios, first: west-east");
  expect(removal("kestrane-salto-80")).toEqual([]);
});

test("a served path that only trees cut is told as such, with the way that the signal takes", () => {
  const made = valley();
  const between: Valley["between"] = (from, to) => {
    const profile = made.between(from, to);
    const middle = profile.coverHeightM.length >> 1;
    profile.coverHeightM[middle] = 60;
    profile.coverCode[middle] = coverCode("wood");
    return profile;
  };
  const links = new Map([...made.world.links].map(([id, link]) => [id, { ...link, foliageDepthM: null }]));
  const strong = new Map(
    [...made.world.radios].map(([id, one]) => [id, one.role === "bridge" ? { ...one, txPowerDbm: 27 } : one]),
  );
  const { findings } = reviewPlan({ ...made.world, links, radios: strong }, between);
  const trees = findings.find(({ linkId, check: kind }) => linkId === "bridge" && kind === "trees")!;
  expect(trees.what).toMatch(
    /^\d+ m of trees in the ray at 6\.\d\d km: \d+\.\d dB (through them|bent over their tops)$/,
  );
  expect(findings.some(({ linkId, check: kind }) => linkId === "bridge" && kind === "blocked")).toBe(false);
});
