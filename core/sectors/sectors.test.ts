import { describe, expect, test } from "@jest/globals";
import { patternLossDb } from "#core/antenna";
import {
  azimuthLossDb,
  bestHeading,
  bestTilt,
  chainsApartDeg,
  edgesOf,
  evenHeadings,
  headingTable,
  headingWords,
  HORIZON_STEP_DEG,
  seamsOf,
  sectorCustomer,
  shareOfDistance,
  siteAround,
  tiltTable,
  tiltWords,
  widestGapDeg,
  widthWords,
} from "#core/sectors";
import { destination, signedAngleDeg } from "#core/geodesy";
import { evaluate } from "#core/evaluate";
import { isLinkServed } from "#core/outcome";
import { setPatch, withPatches } from "#core/plan";
import { readGround, plainTerrain } from "#core/terrain";
import { radioIn, town, valley, valleySurface } from "#core/testing";

const { antennaModels } = valley().world;
const ninety = antennaModels.get("brisote-arco-5-17-90")!;

describe("a sector's edges", () => {
  test("lie where both polarizations together have fallen by their depth, either side", () => {
    for (const { depthDb, leftDeg, rightDeg } of edgesOf(ninety, "HV")) {
      expect(azimuthLossDb(ninety, "HV", rightDeg)).toBeCloseTo(depthDb, 6);
      expect(azimuthLossDb(ninety, "HV", -leftDeg)).toBeCloseTo(depthDb, 6);
    }
    const [three, six, twelve] = edgesOf(ninety, "V");
    expect(three!.rightDeg).toBeLessThan(six!.rightDeg);
    expect(six!.rightDeg).toBeLessThan(twelve!.rightDeg);
  });

  test("an antenna that hears all round has none", () => {
    const omni = [...antennaModels.values()].find(({ shape }) => shape === "omni")!;
    expect(edgesOf(omni, "V").map(({ leftDeg, rightDeg }) => leftDeg + rightDeg)).toEqual([360, 360, 360]);
    expect(widthWords(omni, "V", 200, 4000)).toBe("alike all round.");
  });

  test("the chains part toward the edge, and where is told", () => {
    const { rightDeg } = chainsApartDeg(ninety, 1);
    expect(rightDeg).toBeGreaterThan(20);
    expect(chainsApartDeg(ninety, 90)).toEqual({ leftDeg: null, rightDeg: null });
  });

  test("used wider than they are, what that costs is said in decibels and in distance", () => {
    const lossDb = azimuthLossDb(ninety, "HV", 60);
    const words = widthWords(ninety, "HV", 120, 5200);
    expect(words).toContain(`used over 120° its edge is ${lossDb.toFixed(0)} dB down`);
    expect(words).toContain(`what reaches 5.2 km ahead reaches ${(5.2 * 10 ** (-lossDb / 20)).toFixed(1)} km there`);
    expect(widthWords(ninety, "HV", 4, 5200)).not.toContain("used over");
    expect(shareOfDistance(6.0206)).toBeCloseTo(0.5, 4);
  });
});

describe("sectors of one mast", () => {
  const beam = (radioId: string, azimuthDeg: number) => ({
    radioId,
    azimuthDeg,
    antenna: ninety,
    polarization: "HV" as const,
  });

  test("meet half-way where they are alike, as deep as the pattern is there", () => {
    const [first, second] = seamsOf([beam("b", 90), beam("a", 0)]);
    expect(first).toMatchObject({ fromRadioId: "a", toRadioId: "b" });
    expect(first!.bearingDeg).toBeCloseTo(45, 0);
    expect(first!.depthDb).toBeCloseTo(azimuthLossDb(ninety, "HV", 45), 0);
    const six = edgesOf(ninety, "HV")[1]!;
    expect(first!.overlapDeg).toBeCloseTo(six.leftDeg + six.rightDeg - 90, 6);
    expect(second!.overlapDeg).toBeCloseTo(six.leftDeg + six.rightDeg - 270, 6);
    expect(second!.overlapDeg).toBeLessThan(0);
    expect(seamsOf([beam("a", 0)])).toEqual([]);
  });

  test("a new one goes into the widest gap, and even headings keep the first and the order", () => {
    expect(widestGapDeg([0, 90])).toBe(225);
    expect(widestGapDeg([350, 10])).toBe(180);
    expect(widestGapDeg([])).toBe(0);
    expect(widestGapDeg([30])).toBe(210);
    expect(evenHeadings([10, 200, 100])).toEqual([10, 250, 130]);
    expect(evenHeadings([350])).toEqual([350]);
  });
});

const made = valley(12, town);
const evaluation = evaluate(made.world, made.between);
const terrain = plainTerrain(valleySurface(12));
const heightAt = ({ latDeg, lonDeg }: { latDeg: number; lonDeg: number }) => {
  const out = { groundAmslM: NaN, coverHeightM: 0, coverCode: 0 };
  readGround(terrain, latDeg, lonDeg, out);
  return out.groundAmslM;
};

describe("a site as its sectors see it", () => {
  const site = made.world.sites.get("north-west")!;
  const around = siteAround(made.world, site, evaluation, heightAt, made.between);

  test("tells each customer by the tapes of his link", () => {
    expect(around.customers.map(({ linkId }) => linkId).sort()).toEqual(["l0", "l1", "l2"]);
    for (const one of around.customers) {
      const link = made.world.links.get(one.linkId)!;
      const answer = evaluation.answers.get(one.linkId)!;
      const { aToB, bToA, aPointing } = answer.path!;
      expect(one).toEqual(sectorCustomer(made.world, link, answer));
      expect([one.levelDownDbm, one.levelUpDbm]).toEqual([aToB.chainLevelDbm, bToA.chainLevelDbm]);
      expect(one.marginLeftDb).toBe(Math.min(aToB.marginLeftDb, bToA.marginLeftDb));
      expect(one.isServed).toBe(isLinkServed(made.world, link, answer));
      const sector = made.world.radios.get("sector-2")!;
      const wanted = patternLossDb(
        made.world.antennaModels.get(sector.antennaModelId)!,
        sector.polarization,
        aPointing.azimuthOffDeg,
        aPointing.elevationOffDeg,
      );
      expect(one.patternLossDb).toBeCloseTo(wanted, 6);
      const { demandMbps, demandUpMbps } = made.world.subscribers.get(one.subscriberId)!;
      expect(one.airtime).toBe(
        aToB.rateMbps > 0 && bToA.rateMbps > 0
          ? Math.max(demandMbps / aToB.rateMbps, demandUpMbps / bToA.rateMbps)
          : null,
      );
    }
  });

  test("counts whoever stands within the circle, nearest first, and no one beyond it", () => {
    const distances = around.neighbours.map(({ distanceM }) => distanceM);
    expect(distances).toEqual([...distances].sort((x, y) => x - y));
    expect(Math.max(...distances)).toBeLessThanOrEqual(around.radiusM);
    expect(around.radiusM).toBeCloseTo(1.25 * Math.max(...around.customers.map(({ distanceM }) => distanceM)), 6);
    for (const { tiltDownDeg } of around.neighbours) expect(Math.abs(tiltDownDeg!)).toBeLessThan(10);
  });

  test("sees the ground's horizon round it, and hears what its sectors hear", () => {
    expect(around.horizonDeg).toHaveLength(360 / HORIZON_STEP_DEG);
    for (const deg of around.horizonDeg) expect(deg === null || Math.abs(deg) < 20).toBe(true);
    // Over level ground the horizon lies under the level.
    const flat = valley(0);
    const west = flat.world.sites.get("west")!;
    const level = siteAround(flat.world, west, evaluate(flat.world, flat.between), () => 100, flat.between);
    expect(Math.max(...level.horizonDeg.flatMap((deg) => deg ?? []))).toBeLessThan(0);
    expect(around.heard).toEqual([["sector-2", evaluation.heardNear.get("sector-2")!.noise]]);
  });
});

describe("tilts of a sector", () => {
  const rows = tiltTable(made.world, "sector-2", made.between);

  test("are full answers of all its customers, the sector hearing what it would hear as it then stands", () => {
    const links = [...made.world.links.values()].filter(({ aRadioId }) => aRadioId === "sector-2");
    for (const row of [rows[0]!, rows[rows.length >> 1]!, rows.at(-1)!]) {
      const world = withPatches(made.world, [setPatch("radios", "sector-2", { tiltDownDeg: row.mechanicalDeg })]);
      const then = evaluate(world, made.between);
      const answers = links.map((link) => ({ link, answer: then.answers.get(link.id)! }));
      expect(row.customersServed).toBe(answers.filter(({ link, answer }) => isLinkServed(world, link, answer)).length);
      const margins = answers.map(({ link, answer }) => sectorCustomer(world, link, answer)!.marginLeftDb);
      expect(row.weakestMarginDb).toBeCloseTo(Math.min(...margins), 9);
    }
    expect(tiltTable(made.world, "nw", made.between)).toEqual([]);
  });

  test("a heading is found that looks at the middle of an arc of customers, to two degrees", () => {
    for (const middleDeg of [40, 111, 293]) {
      const arc = valley(0, (rows) => {
        const [house] = rows.subscribers;
        const [client, access] = [radioIn(rows, "farm-radio"), rows.links.find(({ kind }) => kind === "access")!];
        Object.assign(radioIn(rows, "sector"), { azimuthDeg: 200 });
        rows.subscribers = [];
        rows.links = rows.links.filter((link) => link !== access);
        rows.radios = rows.radios.filter((radio) => radio !== client);
        const west = rows.sites.find(({ id }) => id === "west")!;
        for (const off of [-30, -12, 0, 12, 30]) {
          const id = `arc${off}`;
          rows.subscribers.push({ ...house!, id, name: id, ...destination(west, middleDeg + off, 1200) });
          rows.radios.push({ ...client, id: `r${id}`, name: id, subscriberId: id });
          rows.links.push({ ...access, id: `l${id}`, bRadioId: `r${id}` });
        }
      });
      const rows = headingTable(arc.world, "sector", arc.between);
      expect(rows).toHaveLength(180);
      const best = bestHeading(rows)!;
      expect(Math.abs(signedAngleDeg(best.azimuthDeg - middleDeg))).toBeLessThanOrEqual(2);
      expect(best.customersServed).toBe(5);
    }
    expect(headingTable(made.world, "nw", made.between)).toEqual([]);
  });

  test("what a better heading would bring is said against that of now", () => {
    const row = (azimuthDeg: number, peopleServed: number, weakestMarginDb: number | null) => ({
      ...{ azimuthDeg, customersServed: 1, peopleServed, weakestMarginDb },
    });
    expect(headingWords([row(0, 3, 9), row(40, 5, 1)], 1)).toBe("Turned to 40° it would serve 5 people, as now 3.");
    expect(headingWords([row(0, 5, 2), row(40, 5, 5)], 359)).toBe(
      "Turned to 40° it would serve the same 5 people, and leave the weakest 3.0 dB more.",
    );
    expect(headingWords([row(0, 5, 5), row(40, 5, 5)], 0)).toBe("No heading serves more than the 5 people of now.");
    expect(headingWords([], 0)).toBe("");
  });

  test("the best serves most people, then leaves the weakest most, then is the smallest", () => {
    const row = (mechanicalDeg: number, peopleServed: number, weakestMarginDb: number | null) => ({
      mechanicalDeg,
      customersServed: 1,
      peopleServed,
      weakestMarginDb,
    });
    expect(bestTilt([row(0, 3, 9), row(2, 4, 1)])!.mechanicalDeg).toBe(2);
    expect(bestTilt([row(0, 4, 3), row(2, 4, 5)])!.mechanicalDeg).toBe(2);
    expect(bestTilt([row(-3, 4, 5), row(2, 4, 5)])!.mechanicalDeg).toBe(2);
    expect(bestTilt([])).toBeNull();
    expect(tiltWords([row(0, 3, 9), row(2, 4, 1)], 0)).toBe("Bracket 2.0° down serves most: 4 people, level as now 3.");
    expect(tiltWords([row(0, 4, 3), row(-2, 4, 5)], 0)).toBe(
      "Bracket 2.0° up serves the same 4 people, and leaves the weakest 2.0 dB more.",
    );
    expect(tiltWords([row(0, 4, 5)], 0)).toBe("The bracket level, as now, serves most: 4 people.");
    expect(tiltWords([], 0)).toBe("");
  });
});
