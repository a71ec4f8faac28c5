import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { sectorHeardKm } from "#core/coverage";
import { evaluate } from "#core/evaluate";
import { normalizeAzimuthDeg, signedAngleDeg } from "#core/geodesy";
import { costOf } from "#core/bill";
import { checkPatches, withPatches } from "#core/plan";
import { headingsFor, recommended, SCHOOL_WORDS, trySchools, type SchoolTried } from "#core/schools";
import { valley, type ValleyRows } from "#core/testing";

let next = 0;
const makeId = () => `new-${next++}`;

/** The valley with a bare mast amid a dozen houses, all of them in one arc to its east but one. */
function hamlet(rows: ValleyRows): void {
  const [west] = rows.sites;
  rows.sites.push({ ...west!, id: "mast", name: "mast", latDeg: -0.995, lonDeg: 20.02, isFeed: false, freeMounts: 4 });
  for (let i = 0; i < 12; i++) {
    const id = `home-${i}`;
    const place =
      i === 11 ? { latDeg: -0.995, lonDeg: 20.009 } : { latDeg: -1.001 + i * 0.0011, lonDeg: 20.032 + (i % 3) * 0.002 };
    rows.subscribers.push({
      ...rows.subscribers[0]!,
      id,
      name: id,
      ...place,
      demandMbps: 5,
      demandUpMbps: 1,
      people: 2,
    });
  }
}
const made = valley(12, hamlet);
const site = made.world.sites.get("mast")!;
const options = trySchools(made.world, site, 4000, made.between, makeId);
const by = (school: SchoolTried["school"]) => options.find((one) => one.school === school)!;

describe("headings for some customers", () => {
  test("hold everybody within half a width, and no fewer could", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 359 }), { minLength: 1, maxLength: 7 }),
        fc.constantFrom(40, 90, 120),
        (bearings, width) => {
          const headings = headingsFor(bearings, width);
          for (const bearing of bearings)
            expect(Math.min(...headings.map((one) => Math.abs(signedAngleDeg(bearing - one))))).toBeLessThanOrEqual(
              width / 2 + 0.5,
            );
          // One fewer, begun anywhere, leaves somebody out.
          const few = headings.length - 1;
          const covers = (starts: number[]) =>
            bearings.every((b) => starts.some((s) => normalizeAzimuthDeg(b - s) <= width));
          const sets = (count: number): number[][] =>
            count === 0 ? [[]] : sets(count - 1).flatMap((set) => bearings.map((b) => [...set, b]));
          if (few > 0 && few <= 3) expect(sets(few).some(covers)).toBe(false);
        },
      ),
      { numRuns: 80 },
    );
    expect(headingsFor([], 90)).toEqual([]);
    expect(headingsFor([350, 10], 90)).toEqual([0]);
  });
});

describe("schools tried on a site", () => {
  test("are the omni, even sectors, and those where customers are; nothing stands there yet to be left as it is", () => {
    expect(options.map(({ school }) => school)).toEqual(["omni", "three", "four", "customers", "horns"]);
    expect(by("three").headings).toHaveLength(3);
    expect(by("omni").headings.map(({ azimuthDeg }) => azimuthDeg)).toEqual([null]);
    expect(by("customers").headings.length).toBeLessThanOrEqual(2);
  });

  test("what each says is what the plan says once it is taken", () => {
    expect(by("customers").customersServed).toBeGreaterThan(8);
    for (const option of options) {
      const world = withPatches(made.world, option.patches);
      const { summaries } = evaluate(world, made.between);
      const isOurs = (linkId: string) => world.radios.get(world.links.get(linkId)!.aRadioId)!.siteId === "mast";
      const served = [...summaries.values()].filter((one) => isOurs(one.linkId) && one.served);
      expect(option.customersServed).toBe(served.length);
      expect(option.peopleServed).toBe(2 * served.length);
      expect(option.costEur).toBeCloseTo(costOf(world) - costOf(made.world), 6);
      expect(option.customersAsked).toBe(12);
      expect(option.mountsLeft).toBe(4 - option.mounts);
      const { answers } = evaluate(world, made.between);
      const own = [...world.links.values()].filter(({ id }) => isOurs(id)).map(({ id }) => answers.get(id)!);
      const rises = own.map(({ path }) => path!.bToA.noise.riseDb);
      expect(option.noiseHeardDb).toBeCloseTo(Math.max(0, ...rises), 9);
      const sectors = [...world.radios.values()].filter(({ siteId, role }) => siteId === "mast" && role === "sector");
      const farthestKm = Math.max(...served.map(({ distanceM }) => distanceM)) / 1000;
      const heardKm = Math.max(...sectors.map((one) => sectorHeardKm(world, one)!));
      expect(option.heardBeyondKm).toBeCloseTo(heardKm - farthestKm, 6);
      expect(checkPatches(made.world, option.patches)).toEqual([]);
    }
  });

  test("whoever serves customers alone lights less for nobody than whoever serves all round", () => {
    expect(by("omni").litDeg).toBe(360);
    expect(by("customers").idleKm2).toBeLessThan(by("omni").idleKm2);
    expect(by("customers").idleDeg).toBeLessThan(by("three").idleDeg);
    const { option, why } = recommended(options)!;
    expect(option.peopleServed).toBeGreaterThanOrEqual(
      0.98 * Math.max(...options.map(({ peopleServed }) => peopleServed)),
    );
    expect(why).toContain(
      `${option.peopleServed} of 24 people are served by ${SCHOOL_WORDS[option.school].name.toLowerCase()}`,
    );
    expect(why.split(". ")).toHaveLength(2);
  });

  test("on a site with sectors the present ones are tried too, and go where another way is taken", () => {
    const old = trySchools(made.world, made.world.sites.get("west")!, 9000, made.between, makeId);
    expect(old[0]!.school).toBe("asItStands");
    const three = old.find(({ school }) => school === "three")!;
    const world = withPatches(made.world, three.patches);
    expect(world.radios.has("sector")).toBe(false);
    const access = world.links.get("access")!;
    expect(world.radios.get(access.aRadioId)!.siteId).toBe("west");
    const kept = withPatches(made.world, old[0]!.patches);
    expect(kept.radios.has("sector")).toBe(true);
  });

  test("without anybody near there is nothing to try", () => {
    expect(trySchools(made.world, site, 100, made.between, makeId)).toEqual([]);
    expect(recommended([])).toBeNull();
    const full = options.map((one) => ({ ...one, mountsLeft: -1 }));
    expect(recommended(full)).toBeNull();
  });
});
