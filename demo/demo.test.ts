import { createHash } from "node:crypto";
import { expect, test } from "@jest/globals";
import { evaluate, evaluateAfter, reviewPlan, workOut } from "#core/evaluate";
import { linksOf } from "#core/findings";
import { clearanceOf, obstructionHeightsM } from "#core/link";
import { worldOf } from "#core/plan";
import { searchWaysOut } from "#core/search";
import type { Place } from "#core/geodesy";
import { cutTiles, groundAt, groundIn, plainTerrain, profileScratch, sampleProfile } from "#core/terrain";
import { demoPlan, islandSurface } from "#demo";

const surface = islandSurface();
const terrain = plainTerrain(surface);
const rows = demoPlan(surface);

test("the island is the same bytes each time, 640 m high, and its plan parses", () => {
  const digest = (island: typeof surface) => {
    const hash = createHash("sha256");
    for (const { tile } of cutTiles(island)) hash.update(tile.groundAmslM).update(tile.coverCode);
    return hash.digest("hex");
  };
  expect(digest(surface)).toBe(digest(islandSurface()));
  let highest = 0;
  for (let row = 0; row < 433; row++)
    for (let column = 0; column < 600; column++) highest = Math.max(highest, groundIn(surface, column, row));
  expect(highest).toBeCloseTo(640, 1);
  expect(rows.sites).toHaveLength(7);
  expect(rows.subscribers.length).toBeGreaterThanOrEqual(58);
  expect(rows.links.filter(({ kind }) => kind === "bridge")).toHaveLength(4);
  expect(demoPlan(surface)).toEqual(rows);
});

test("the terrain really blocks: a fair share of paths from the sites is obstructed, some only grazed", () => {
  const count = { clear: 0, tight: 0, blocked: 0 };
  for (const site of rows.sites) {
    for (const other of [...rows.sites, ...rows.subscribers]) {
      if (other.id === site.id) continue;
      const profile = sampleProfile(terrain, site, other);
      const heightB = "structureHeightM" in other ? other.structureHeightM : other.maxHeightM;
      const { state } = clearanceOf(
        {
          profile,
          heightsM: obstructionHeightsM(profile, false),
          aAmslM: profile.groundAmslM[0]! + site.structureHeightM,
          bAmslM: profile.groundAmslM.at(-1)! + heightB,
          frequencyGHz: 5.8,
        },
        [{ kFactor: 4 / 3, wantedShare: 0.6 }],
      );
      count[state]++;
    }
  }
  const all = count.clear + count.tight + count.blocked;
  expect(count.blocked / all).toBeGreaterThan(0.3);
  expect(count.clear / all).toBeGreaterThan(0.3);
  expect(count.tight).toBeGreaterThan(5);
});

test("the planted faults are found, each with a remedy, and little else", () => {
  const { findings } = reviewPlan(worldOf(rows), (from, to) => sampleProfile(terrain, from, to), Infinity);
  expect(findings.map(({ check: kind }) => kind).sort()).toEqual([
    ...["address", "address", "address", "address", "address"],
    "airtime",
    "airtime",
    ...["alarm", "alarm", "alarm"],
    "blocked",
    "bracket",
    "doubtful",
    "firmware",
    "firmware",
    "fullHop",
    "gateway",
    "longCable",
    "overEirp",
    "overEirp",
    "ownNoise",
    "polarization",
    "pole",
    "solar",
    "tight",
    "weak",
    "wrongInjector",
  ]);
  for (const finding of findings) expect([finding.check, finding.remedies!.length]).not.toEqual([finding.check, 0]);
  const of = (kind: string) => findings.filter((finding) => finding.check === kind);
  expect(of("tight")[0]!.remedies![0]!.label).toBe("Raise the Lighthouse end from 9 to 13.5 m");
  expect(
    of("airtime").map(({ where, what }) => [where, /ask for (3\.\d) times/.exec(what)?.[1] !== undefined]),
  ).toEqual([
    ["School east at School roof", true],
    ["Tower south at North water tower", true],
  ]);
  // The two sectors that face each other are one finding for all whom they hurt, whichever way round.
  expect(linksOf(of("ownNoise")[0]!).length).toBeGreaterThan(5);
  expect(of("ownNoise")[0]!.what).toMatch(
    /Ridge east at Ridge hut, on the same channel .* raises the noise at Quarry mast by \d\.\d dB/,
  );
  expect(findings.find(({ check: kind }) => kind === "doubtful")!.why).toContain("side lobe");
  // What lets nothing pass is no way out of a level that holds no modulation.
  for (const { effect } of of("weak")[0]!.remedies!) expect(effect).not.toMatch(/; 0\/|\/0 Mbit/);
});

test("the first remedy of each planted fault resolves it", () => {
  const world = worldOf(rows);
  const between = (from: Place, to: Place) => sampleProfile(terrain, from, to);
  const now = evaluate(world, between);
  for (const { id, check } of now.findings) {
    const [first] = workOut(now, id, between)!;
    if (!first) throw new Error(`${id} has no remedy`);
    if (first.visit) continue;
    const left = evaluateAfter(now, first.patches, between).findings;
    expect([check, left.some((finding) => finding.id === id)]).toEqual([check, false]);
  }
});

test("first remedies taken one after another leave nothing but what is settled on the roof", () => {
  const known = new Map<string, ReturnType<typeof sampleProfile>>();
  const between = (from: Place, to: Place) => {
    const key = [from.latDeg, from.lonDeg, to.latDeg, to.lonDeg].join();
    const profile = known.get(key) ?? sampleProfile(terrain, from, to);
    known.set(key, profile);
    return profile;
  };
  let now = evaluate(worldOf(rows), between);
  const before = now.outcome.customersServed;
  /** The first way out of the worst finding that has one which is no visit. */
  const wayOut = () => {
    for (const { id } of now.findings) {
      const remedy = workOut(now, id, between)!.find(({ visit }) => !visit);
      if (remedy) return remedy;
    }
    return null;
  };
  for (let turn = 0; turn < 30; turn++) {
    const remedy = wayOut();
    if (!remedy) break;
    now = evaluateAfter(now, remedy.patches, between);
  }
  expect(now.findings.map(({ check: kind }) => kind)).toEqual(["doubtful"]);
  expect(now.outcome.customersServed).toBeGreaterThan(before);
});

test("for the blocked pair a search finds a relay on high ground as well as a sector that sees the house", () => {
  const world = worldOf(rows);
  const scratch = profileScratch();
  const work = searchWaysOut(
    world,
    { linkId: "link-sub-44", moveAM: 0, moveBM: 200, mastM: 6 },
    ({ latDeg, lonDeg }) => groundAt(surface, latDeg, lonDeg),
    (from, to) => sampleProfile(terrain, from, to, undefined, scratch),
    () => `new-${Math.random()}`,
  );
  let step = work.next();
  let doneShare = 0;
  while (!step.done) {
    expect(step.value.doneShare).toBeGreaterThanOrEqual(doneShare);
    doneShare = step.value.doneShare;
    step = work.next();
  }
  const kinds = step.value.ways.map(({ kind }) => kind);
  expect(kinds[0]).toBe("elsewhere");
  expect(kinds).toContain("relayPeak");
  expect(step.value.heatB.length).toBeGreaterThan(400);
});
