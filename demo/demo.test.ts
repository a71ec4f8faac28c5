import { createHash } from "node:crypto";
import { expect, test } from "@jest/globals";
import { reviewPlan } from "#core/findings";
import { clearanceOf, obstructionHeightsM } from "#core/link";
import { worldOf } from "#core/plan";
import { cutTiles, plainTerrain, sampleProfile } from "#core/terrain";
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
    for (let column = 0; column < 600; column++) highest = Math.max(highest, surface.groundAmslM(column, row));
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
  const { findings } = reviewPlan(worldOf(rows), (from, to) => sampleProfile(terrain, from, to));
  expect(findings.map(({ kind }) => kind).sort()).toEqual([
    "blocked",
    "bracket",
    "doubtful",
    "overEirp",
    "overEirp",
    "polarization",
    "tight",
    "weak",
  ]);
  for (const finding of findings) expect([finding.kind, finding.remedies!.length]).not.toEqual([finding.kind, 0]);
  expect(findings[0]!.remedies![0]!.label).toBe("Raise the Lighthouse end from 9 to 13.5 m");
  expect(findings.find(({ kind }) => kind === "doubtful")!.why).toContain("side lobe");
});
