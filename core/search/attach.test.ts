import { describe, expect, test } from "@jest/globals";
import { attachList } from "#core/search";
import { evaluate } from "#core/evaluate";
import { destination } from "#core/geodesy";
import { checkPatches, withPatches } from "#core/plan";
import { radioIn, valley, type ValleyRows } from "#core/testing";

let next = 0;
const makeId = () => `new-${next++}`;

/** Houses before the sector, one behind it, one behind the ridge, and one who is served already. */
function list(rows: ValleyRows): void {
  const [west] = rows.sites;
  const [farm] = rows.subscribers;
  const put = (id: string, bearingDeg: number, distanceM: number, demandMbps = 5) =>
    rows.subscribers.push({
      ...farm!,
      ...{ id, name: id, demandMbps, demandUpMbps: 1, ...destination(west!, bearingDeg, distanceM) },
    });
  for (let i = 0; i < 4; i++) put(`near-${i}`, 85 + 6 * i, 2000 + 300 * i);
  put("behind", 275, 2000);
  put("shadow", 91, 8000);
  put("greedy", 95, 2500, 9000);
  Object.assign(farm!, { demandMbps: 1, demandUpMbps: 1, ...destination(west!, 95, 1500) });
}
const made = valley(90, list);
const ids = [...made.world.subscribers.keys()];
const { customers, patches } = attachList(made.world, ids, made.between, makeId);
const by = (id: string) => customers.find(({ subscriberId }) => subscriberId === id)!;

describe("a list of customers", () => {
  test("is linked to the sectors that serve them, and each of the others is told why not", () => {
    for (let i = 0; i < 4; i++)
      expect(by(`near-${i}`)).toMatchObject({ why: "", sector: { radioId: "sector", siteName: "west" } });
    expect(by("farm")).toMatchObject({ sector: null, why: "is served already" });
    expect(by("behind").why).toBe("no sector within 25 km looks this way");
    expect(by("shadow").why).toBe("blocked toward sector");
    expect(by("greedy").why).toMatch(/^less than is asked for from sector: \d+\/\d+ Mbit\/s$/);
  });

  test("is served by what is put in hand, at the rates that were told", () => {
    expect(checkPatches(made.world, patches)).toEqual([]);
    const world = withPatches(made.world, patches);
    const { summaries } = evaluate(world, made.between);
    for (const { subscriberId, sector, downMbps, upMbps, marginLeftDb } of customers) {
      const link = [...world.links.values()].find(
        ({ bRadioId }) => world.radios.get(bRadioId)!.subscriberId === subscriberId,
      );
      if (!sector) {
        expect(link?.id ?? "access").toBe("access");
        continue;
      }
      const summary = summaries.get(link!.id)!;
      expect(summary).toMatchObject({ served: true, downMbps, upMbps });
      expect(summary.marginLeftDb).toBeCloseTo(marginLeftDb!, 9);
    }
  });

  test("leaves out who no longer fits on a sector, and who is unknown", () => {
    const full = valley(90, (rows) => {
      list(rows);
      const model = rows.equipment.find(({ id }) => id === radioIn(rows, "sector").radioModelId)!;
      if (model.kind === "radio") model.body = { ...model.body, clientLimit: 3 };
    });
    const some = attachList(full.world, [...ids, "nobody"], full.between, makeId).customers;
    expect(some.filter(({ sector }) => sector !== null)).toHaveLength(2);
    expect(some.filter(({ why }) => why === "every sector that looks this way is full").length).toBeGreaterThan(1);
    expect(some).toHaveLength(ids.length);
  });
});
