import { expect, test } from "@jest/globals";
import { costOf } from "#core/bill";
import { evaluate } from "#core/evaluate";
import { removePatch, setPatch, withPatches } from "#core/plan";
import { valley } from "#core/testing";
import { addedEur, lostLinks, slowedCount, trialOf } from "#core/trial";

const { world, between } = valley(0);
const linkIds = [...world.links.keys()];

test("a trial says of every link what the whole evaluation says, before a change and after it", () => {
  const patches = [setPatch("radios", "sector", { azimuthDeg: 40, txPowerDbm: 9 })];
  const before = trialOf(world, between);
  for (const [trial, then] of [
    [before, world],
    [before.after(patches), withPatches(world, patches)],
  ] as const) {
    const { answers, summaries } = evaluate(then, between);
    for (const id of linkIds) {
      expect(trial.answer(id)).toEqual(answers.get(id));
      expect(trial.summary(id)).toEqual(summaries.get(id));
      expect(trial.isServed(id)).toBe(summaries.get(id)!.served);
      expect(trial.rates(id)).toEqual({
        downMbps: summaries.get(id)!.downMbps,
        upMbps: summaries.get(id)!.upMbps,
      });
    }
  }
});

test("links are answered once, however often and in whatever order they are asked for", () => {
  let profiles = 0;
  const trial = trialOf(world, (from, to) => {
    profiles++;
    return between(from, to);
  });
  const answers = linkIds.map(trial.answer);
  const taken = profiles;
  expect(linkIds.map(trial.answer)).toEqual(answers);
  linkIds.map(trial.summary);
  expect(profiles).toBe(taken);
});

test("a change costs what its kit adds to the price of the plan", () => {
  const before = trialOf(world, between);
  const patches = [removePatch("links", "access"), removePatch("radios", "farm-radio")];
  const after = before.after(patches);
  expect(addedEur(before, after)).toBeLessThan(0);
  expect(addedEur(before, after)).toBe(costOf(withPatches(world, patches)) - costOf(world));
});

test("a link is lost where it was served and then is not, or is gone; one that never was served cannot be lost", () => {
  const links = [...world.links.values()];
  const before = trialOf(world, between);
  expect(before.isServed("access")).toBe(true);
  const idsLost = (patches: Parameters<typeof before.after>[0], from = before) =>
    lostLinks(from, from.after(patches), links).map(({ id }) => id);
  expect(idsLost([])).toEqual([]);
  expect(idsLost([removePatch("links", "access")])).toEqual(["access"]);
  const greedy = [setPatch("subscribers", "farm", { demandMbps: 100_000 })];
  expect(idsLost(greedy)).toEqual(["access"]);
  expect(idsLost([removePatch("links", "access")], before.after(greedy))).toEqual([]);
});

test("links count as slowed by what disturbs them, not those that are set aside or were slow before", () => {
  const crowded = valley(0, (rows) => {
    const farm = rows.subscribers[0]!;
    const own = rows.radios.find(({ id }) => id === "farm-radio")!;
    const sector = rows.radios.find(({ id }) => id === "sector")!;
    rows.radios.push({
      ...sector,
      id: "other-sector",
      name: "Other",
      carrierId: "other-sector",
      frequencyMHz: sector.frequencyMHz + 200,
    });
    rows.radios.push({
      ...own,
      id: "other-radio",
      subscriberId: "other",
      carrierId: "other-sector",
      frequencyMHz: sector.frequencyMHz + 200,
    });
    rows.subscribers.push({ ...farm, id: "other", name: "other", latDeg: farm.latDeg + 0.003 });
    const access = rows.links.find(({ id }) => id === "access")!;
    rows.links.push({ ...access, id: "other-access", aRadioId: "other-sector", bRadioId: "other-radio" });
  });
  const before = trialOf(crowded.world, crowded.between);
  const frequencyMHz = crowded.world.radios.get("sector")!.frequencyMHz;
  const patches = [setPatch("carriers", "other-sector", { frequencyMHz })];
  const after = before.after(patches);
  expect(after.rates("access").downMbps).toBeLessThan(before.rates("access").downMbps);
  expect(slowedCount(before, after, patches, new Set())).toBe(1);
  expect(slowedCount(before, after, patches, new Set(["access"]))).toBe(0);
  expect(slowedCount(before, before.after([]), [], new Set())).toBe(0);
});

test("a link that the plan does not hold is a broken contract", () => {
  for (const ask of ["answer", "isServed", "summary", "rates"] as const)
    expect(() => trialOf(world, between)[ask]("none")).toThrow('There is no link "none" in the plan.');
});
