import { expect, test } from "@jest/globals";
import { billOf } from "#core/bill";
import { findingsInHand, reviewPlan } from "#core/evaluate";
import { linksOf, radioOf, faultsOf, type Finding } from "#core/findings";
import { answerOf, outcomeOf, summarize } from "#core/outcome";
import { radioPatches, withPatches, type Scan } from "#core/plan";
import { radioIn, valley, type ValleyRows } from "#core/testing";

type Made = ReturnType<typeof valley>;
const review = (made: Made) => reviewPlan(made.world, made.between);
const of = (findings: readonly Finding[], kind: string) => findings.filter((one) => one.check === kind);
const faults = (made: Made, id: string) =>
  faultsOf(made.world, made.world.links.get(id)!, answerOf(made.world, made.world.links.get(id)!, made.between), null);
/** The plan after a remedy, looked over again. */
const after = (made: Made, finding: Finding, i = 0) =>
  reviewPlan(withPatches(made.world, finding.remedies![i]!.patches), made.between, 0);

test("a customer who gets less than he asks for is not served, and says how much is missing which way", () => {
  const made = valley(0, (rows) => void Object.assign(rows.subscribers[0]!, { demandMbps: 100, demandUpMbps: 1 }));
  const { summaries, outcome, findings } = review(made);
  expect(summaries.get("access")!.served).toBe(false);
  expect(outcome.customersServed).toBe(0);
  const [demand] = of(findings, "demand");
  expect(demand!.what).toMatch(/^\d+ of 100 Mbit\/s to farm$/);
  expect(after(made, demand!).summaries.get("access")!.served).toBe(true);
  expect(of(review(valley()).findings, "demand")).toEqual([]);
});

test("a sector that is asked for more than its time says so once, and a way out gives all of them time", () => {
  const made = valley(0, (rows) => {
    Object.assign(rows.subscribers[0]!, { demandMbps: 30, demandUpMbps: 3 });
    for (let i = 0; i < 3; i++) {
      rows.subscribers.push({ ...rows.subscribers[0]!, id: `s${i}`, name: `s${i}`, latDeg: -1.004 + i * 0.004 });
      rows.radios.push({ ...radioIn(rows, "farm-radio"), id: `r${i}`, name: `r${i}`, subscriberId: `s${i}` });
      rows.links.push({ ...rows.links[1]!, id: `l${i}`, bRadioId: `r${i}` });
    }
  });
  const { summaries, findings } = review(made);
  const rates = ["access", "l0", "l1", "l2"].map((id) => summaries.get(id)!.downMbps);
  const share = rates.reduce((sum, rate) => sum + 30 / rate, 0);
  const airtime = of(findings, "airtime");
  expect(airtime).toHaveLength(1);
  expect(airtime[0]!.what).toContain(`4 customers ask for ${share.toFixed(1)} times its airtime toward them`);
  expect(airtime[0]!.people).toBe(12);
  expect(linksOf(airtime[0]!)).toHaveLength(4);
  expect(of(after(made, airtime[0]!).findings, "airtime")).toEqual([]);
  // The plan itself is left as it was by looking for ways out.
  expect(made.world.radios.get("sector")!.azimuthDeg).toBe(95);
});

test("what is wrong with a sector is wrong once, for everybody on it", () => {
  const made = valley(0, (rows) => {
    radioIn(rows, "sector").txPowerDbm = 25;
    rows.subscribers.push({ ...rows.subscribers[0]!, id: "second", name: "second", latDeg: -1.003 });
    rows.radios.push({ ...radioIn(rows, "farm-radio"), id: "second-radio", subscriberId: "second" });
    rows.links.push({ ...rows.links[1]!, id: "access-2", bRadioId: "second-radio" });
  });
  const over = of(review(made).findings, "overEirp").filter((finding) => radioOf(finding) === "sector");
  expect(over).toHaveLength(1);
  expect(over[0]).toMatchObject({ people: 6 });
  expect(linksOf(over[0]!)).toEqual(["access", "access-2"]);
  expect(over[0]!.what).toContain("(2 links)");
});

test("turning down to the cap says when it drops the link under the floor of acceptance, and looks for what does not", () => {
  const made = valley(0, (rows) => {
    for (const id of ["west-east", "east-west"])
      Object.assign(radioIn(rows, id), { frequencyMHz: 5600, txPowerDbm: 20 });
    radioIn(rows, "east-west").antennaModelId = "brisote-plato-5-25";
    rows.plan.proofFloorDbm = -60;
  });
  const over = of(review(made).findings, "overEirp");
  const [finding] = over;
  const plain = finding!.remedies!.find(({ label }) => /^Turn [^,]* down from 20 to \d+ dBm$/.test(label))!;
  expect(plain.effect).toContain("under the plan's floor of −60.0 for acceptance");
  const warned = finding!.remedies!.map(({ effect }) => effect.includes("under the plan's floor"));
  expect(warned).toEqual([...warned].sort((x, y) => Number(x) - Number(y)));
});

test("an overloaded receiver, ends that do not match and noise from outside are found, each with a way out that holds", () => {
  const near = valley(0, (rows) => {
    rows.sites[1]!.lonDeg = 20.0006;
    for (const id of ["west-east", "east-west"]) radioIn(rows, id).txPowerDbm = 20;
  });
  const overload = of(review(near).findings, "overload");
  expect(overload[0]!.what).toMatch(
    /more than the −30\.0 dBm its receiver stands: turn (west-east|east-west) down to −?\d+\.\d dBm or less/,
  );
  const both = overload[0]!.remedies!.findIndex(({ label }) => label.startsWith("Turn both"));
  expect(of(after(near, overload[0]!, Math.max(0, both)).findings, "overload").length).toBeLessThan(overload.length);

  const apart = valley(0, (rows) => void (radioIn(rows, "east-west").frequencyMHz = 5760));
  const [mismatch] = of(review(apart).findings, "mismatch");
  expect(mismatch!.what).toBe("west stands on 5800 MHz, east on 5760 MHz");
  expect(of(after(apart, mismatch!).findings, "mismatch")).toEqual([]);

  const scan = (polarization: "H" | "V"): Scan => ({
    id: `scan-${polarization}`,
    planId: "valley",
    siteId: "west",
    headingDeg: 90,
    beamwidthDeg: 90,
    gainDbi: 12,
    polarization,
    scannedAt: "2026-10-01T00:00:00Z",
    source: "file",
    binKHz: 1000,
    frequenciesMHz: Array.from({ length: 700 }, (_, i) => 5150.5 + i),
    // A strong neighbour from 5190 to 5210 MHz, quiet elsewhere.
    levelsDbm: Array.from({ length: 700 }, (_, i) => (i >= 40 && i < 60 ? -58 : -108)),
  });
  const drowned = valley(0, (rows) => void rows.scans.push(scan("H"), scan("V")));
  const [noise] = of(review(drowned).findings, "noise");
  expect(noise!.what).toMatch(
    /of signal to noise on a chain at west: noise stands \d+\.\d dB above thermal \(scan of 2026-10-01/,
  );
  expect(noise!.remedies![0]!.label).toMatch(
    /^Move sector and its 1 customer from 5200 to \d+ MHz: \d+ dB of signal to noise/,
  );
  expect(after(drowned, noise!).summaries.get("access")!.served).toBe(true);
  expect(faults(drowned, "access").some(({ check: kind }) => kind === "weak" || kind === "margin")).toBe(false);
});

test("both places of a missing zone are told where they differ", () => {
  // A low rise close to one end takes the larger share, a higher one midway the more metres.
  const made = valley(45);
  const [tight] = review(made).findings.filter(
    ({ check: kind, linkId }) => linkId === "bridge" && (kind === "tight" || kind === "blocked"),
  );
  const { clearance } = answerOf(made.world, made.world.links.get("bridge")!, made.between).path!;
  expect(clearance.intrusionM).toBeGreaterThanOrEqual(clearance.worstIntrusionM);
  expect(tight!.what.includes("most is missing at")).toBe(clearance.intrusionM - clearance.worstIntrusionM >= 0.1);
});

test("under a change in hand findings follow: what is mended goes, what it breaks comes, the rest stays with its remedies", () => {
  const made = valley(13);
  const kept = review(made);
  const [tight] = of(kept.findings, "tight");
  const inHand = (patches: Parameters<typeof withPatches>[1], ids: string[]) => {
    const world = withPatches(made.world, patches);
    const answers = new Map(ids.map((id) => [id, answerOf(world, world.links.get(id)!, made.between)]));
    const summaries = new Map(kept.summaries);
    for (const [id, answer] of answers) summaries.set(id, summarize(world, world.links.get(id)!, answer));
    return findingsInHand(world, kept.findings, answers, summaries);
  };
  expect(of(inHand(tight!.remedies![0]!.patches, ["bridge"]), "tight")).toEqual([]);
  const radio = made.world.radios.get("sector")!;
  const louder = inHand(radioPatches(made.world, { ...radio, txPowerDbm: 27 }), ["access"]);
  expect(of(louder, "overEirp")).toMatchObject([
    { about: [{ kind: "radios", id: "sector" }, { id: "access" }], remedies: null },
  ]);
  expect(of(louder, "tight")[0]).toBe(tight);
});

test("an outcome counts whom it serves, the weakest link and the price, to the cent", () => {
  const made = valley();
  const { summaries, outcome } = review(made);
  expect(outcome).toMatchObject({ customersServed: 1, peopleServed: 3, costEur: billOf(made.world).priceEur });
  const margins = [...summaries.values()]
    .map(({ linkId, marginLeftDb }) => [marginLeftDb!, linkId] as const)
    .sort((x, y) => x[0] - y[0]);
  expect([outcome.weakestMarginDb, outcome.weakestLinkId]).toEqual([...margins[0]!]);
  const unfed = valley(0, (rows: ValleyRows) => void rows.links.shift());
  expect(outcomeOf(unfed.world, review(unfed).summaries).customersServed).toBe(1);
  const cut = valley(0, (rows: ValleyRows) => {
    rows.sites[0]!.isFeed = false;
    rows.sites[1]!.isFeed = true;
    rows.links.shift();
  });
  expect(outcomeOf(cut.world, review(cut).summaries)).toMatchObject({ customersServed: 0, peopleServed: 0 });
});
