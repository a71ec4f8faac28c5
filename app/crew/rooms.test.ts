// What a crew is told on its phone, on its sheet, at the acceptance and in the order list is what the desk works out.
import { rmSync } from "node:fs";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import Papa from "papaparse";
import { billOf } from "#core/bill";
import { readingOfNotes } from "#core/crews";
import { inverseGeodesic } from "#core/geodesy";
import { crewSheet } from "#core/install";
import { outcomeOf, summarize } from "#core/outcome";
import { linkEnds, type Visit } from "#core/plan";
import { judge, standingOf } from "#core/proof";
import { configSheet, sheetContext } from "#core/staging";
import { valley, valleySurface } from "#core/testing";
import { planContext, stopEngine } from "#engine";
import { createPlan, openStore, packLayer, signedBy, type Store } from "#store";
import { begunDirectory } from "../../store/testing";
import { fieldPack } from "./pack.server";

const directory = await begunDirectory("rooms");
let store: Store;
const VISIT: Visit = {
  ...{ id: "visit", planId: "valley", linkId: "bridge", work: "build", day: "", startMinute: 480, minutes: 240 },
  ...{ crewAId: null, crewBId: null, afterIds: [], weather: "", neighboursTold: false, packed: false },
  ...{ powerOff: "no", climb: "no", state: "planned", stopped: "", notes: "" },
} as unknown as Visit;

beforeAll(async () => {
  store = await openStore(directory);
  const { layer, tiles } = packLayer("valley", "ground", "bare", valleySurface(10));
  await createPlan(store.db, { ...valley().rows, layers: [layer] }, signedBy("test"), "Began", {
    tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
    photos: [],
  });
});
afterAll(async () => {
  await stopEngine();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

test.each(["bridge", "access"])(
  "pack, phone, sheet and acceptance of %s expect one level, and set one power",
  async (linkId) => {
    const context = (await planContext(store, "valley"))!;
    const { world, revision } = await context.load();
    const visit = { ...VISIT, linkId };
    const pack = await fieldPack(store, context, { world, revision, visit });
    const { a, b } = linkEnds(world, world.links.get(linkId)!);
    const answer = (await context.ask("link", { linkId }))!;
    const { azimuthDeg, backAzimuthDeg } = inverseGeodesic(a.place, b.place);
    const sheet = crewSheet(world.plan, a, b, answer.path!, { azimuthDeg, backAzimuthDeg }, new Date(pack.madeAt));
    for (const side of ["a", "b"] as const) {
      const end = { a, b }[side];
      const { sheet: told } = pack.ends![side];
      const tape = side === "a" ? answer.path!.bToA : answer.path!.aToB;
      expect(told.expectedChainDbm).toBeCloseTo(tape.chainLevelDbm, 6);
      expect(told.expectedTotalDbm).toBeCloseTo(tape.totalLevelDbm, 6);
      expect([told.accept, told.powerToSet]).toEqual([sheet[side].accept, sheet[side].powerToSet]);
      const { settings, powerOf } = configSheet(world, end.radio.id, sheetContext(world));
      expect(told.powerToSet).toEqual({ dbm: settings.txPowerDbm, of: powerOf });
      const promised = side === "a" ? pack.promised!.expectedADbm : pack.promised!.expectedBDbm;
      expect(Math.abs(promised! - told.expectedTotalDbm)).toBeLessThanOrEqual(0.051);
    }
    // Readings that equal the expected level on every chain are accepted by the phone and by the acceptance.
    const chains = ["chain0", "chain1", "chain2", "chain3"] as const;
    const notes = (["a", "b"] as const).flatMap((side) => {
      const { expectedChainDbm, expectedTotalDbm, accept } = pack.ends![side].sheet;
      expect(expectedChainDbm).toBeGreaterThanOrEqual(accept.fromDbm);
      expect(expectedChainDbm).toBeLessThanOrEqual(accept.toDbm);
      const count = Math.round(10 ** ((expectedTotalDbm - expectedChainDbm) / 10));
      return chains.slice(0, count).map((key, i) => ({
        ...{ id: `${side}${i}`, planId: "valley", visitId: "visit", side, kind: "read" as const, key },
        ...{ at: `2026-07-01T10:00:0${i}.000Z`, by: "crew", text: "", value: null, levelDbm: expectedChainDbm },
      }));
    });
    const reading = readingOfNotes(visit, pack.promised, notes as never)!;
    expect(judge(world.plan, a, b, reading).state).not.toBe("failed");
    const standing = standingOf(world, { ...world.links.get(linkId)!, state: "proven" }, answer, reading);
    expect(standing.state).toBe(judge(world.plan, a, b, reading).state);
  },
);

test("the order list's sum is the bar's cost, and its lines add up to it", async () => {
  const context = (await planContext(store, "valley"))!;
  const { world } = await context.load();
  const { data } = Papa.parse<Record<string, string>>(await context.ask("kitText", { name: "bill.csv" }), {
    header: true,
    skipEmptyLines: true,
  });
  const [nameHead] = Object.keys(data[0]!);
  const priceHead = Object.keys(data[0]!).find((head) => /price|€|eur/i.test(head))!;
  const sum = data.find((row) => row[nameHead!] === "sum")!;
  const lines = data.filter((row) => row[nameHead!] !== "sum");
  const bill = billOf(world);
  expect(lines).toHaveLength(bill.lines.length);
  const summaries = new Map(
    await Promise.all(
      [...world.links.values()].map(async (link) => {
        const answer = (await context.ask("link", { linkId: link.id }))!;
        return [link.id, summarize(world, link, answer)] as const;
      }),
    ),
  );
  expect(Number(sum[priceHead])).toBeCloseTo(outcomeOf(world, summaries).costEur, 2);
  expect(lines.reduce((all, row) => all + Number(row[priceHead]), 0)).toBeCloseTo(bill.priceEur, 1);
});
