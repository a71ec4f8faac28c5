import { rmSync } from "node:fs";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { proposeAddresses } from "#core/addressing";
import { withPatches } from "#core/plan";
import { progressOf, type StagingNote } from "#core/staging";
import { radioIn, town, valley } from "#core/testing";
import { forgetPlans, stopEngine } from "#engine";
import { writeSheetsJson, writeSheetsText } from "#formats/sheets";
import { Stopped } from "#pool";
import {
  createPlan,
  openStore,
  readHistory,
  readPlan,
  readStaging,
  recordChange,
  secretOf,
  signedBy,
  writeStaging,
  type Store,
} from "#store";
import { staging } from "./staging";
import type { JobTools } from "./tools";
import { begunDirectory } from "../store/testing";

const directory = await begunDirectory("staging");
const made = valley(0, (rows) => {
  town(rows);
  rows.sites.forEach((site, i) => Object.assign(site, { subnet: `10.1.${i}.0/24` }));
  radioIn(rows, "sector-2").firmware = "4.2.1";
  radioIn(rows, "r0").firmware = "3.9.0";
});
let store: Store;
beforeAll(async () => {
  store = await openStore(directory);
  await createPlan(store.db, made.rows, signedBy("test"), "Began");
  await recordChange(store.db, {
    planId: "valley",
    ...signedBy("test"),
    what: "Addresses",
    // One is left without.
    patches: proposeAddresses(made.world).filter(({ id }) => id !== "r2"),
  });
});
afterAll(async () => {
  await stopEngine();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

const order = { author: signedBy("ana"), radioIds: null };
const tools = (check: () => void = () => undefined): JobTools => ({
  progress: () => undefined,
  signal: new AbortController().signal,
  check,
});
const run = (id: string, some: JobTools = tools(), radioIds: string[] | null = null) =>
  staging.work(store, { id, planId: "valley", order: { ...order, radioIds } }, some);
const noted = async () => new Map((await readStaging(store.db, "valley")).map((note) => [note.radioId, note]));

test("stand-ins are staged, who is not ready is told, and a plan that is no demo stays as it is", async () => {
  const before = await readHistory(store.db, "valley", { limit: 100 });
  const { message } = await run("first");
  expect(message).toBe("9 devices practised, 1 radio for which the plan is not ready, 0 collisions of addresses");
  const notes = await noted();
  expect(notes.has("r2")).toBe(false);
  expect(notes.get("r0")).toMatchObject({ practiceRun: "first", problem: "", foundFirmware: "4.2.1" });
  expect(progressOf(notes.get("r0")).isStaged).toBe(true);
  expect(await readHistory(store.db, "valley", { limit: 100 })).toEqual(before);
});

test("a run that breaks off goes on where it was; a new one begins with new boxes", async () => {
  let left = 4;
  const breaking = tools(() => {
    if (left-- === 0) throw new Stopped();
  });
  await expect(run("second", breaking)).rejects.toThrow(Stopped);
  const half = [...(await noted()).values()].filter(({ practiceRun }) => practiceRun === "second");
  expect(half.length).toBeGreaterThan(0);
  expect(half.length).toBeLessThan(9);
  await run("second");
  const notes = await noted();
  expect([...notes.values()].every(({ practiceRun }) => practiceRun === "second")).toBe(true);
  // Followers that were done keep their ticks; leaders have to be there for the others.
  for (const note of half.filter(({ radioId }) => /^r\d|east|ne/.test(radioId)))
    expect(notes.get(note.radioId)!.done).toEqual(note.done);
});

test("what was noted of a real device is never touched", async () => {
  const real: StagingNote = {
    radioId: "r1",
    practiceRun: null,
    serial: "SN 7",
    done: { label: { at: "2026-11-26T10:00:00Z", who: "ana", note: "" } },
    problem: "",
    found: null,
    foundFirmware: "",
  };
  await writeStaging(store.db, "valley", real);
  await run("third", tools(), ["r1", "r0"]);
  const notes = await noted();
  expect(notes.get("r1")).toEqual(real);
  expect([notes.get("r0")!.practiceRun, notes.get("sector-2")!.practiceRun, notes.get("nw")!.practiceRun]).toEqual([
    "third",
    "third",
    "second",
  ]);
});

test("in the demo, whose devices are stand-ins all, their versions go into the plan as one change", async () => {
  await store.db.query("UPDATE plans SET is_demo = true");
  forgetPlans();
  await run("fourth");
  const rows = (await readPlan(store.db, "valley"))!;
  expect(rows.radios.find(({ id }) => id === "r0")!.firmware).toBe("4.2.1");
  const [last] = await readHistory(store.db, "valley", { limit: 1 });
  expect(last).toMatchObject({ who: "ana", what: expect.stringMatching(/^Staging: versions of \d radios$/) });
  const { revision } = last!;
  await run("fourth");
  expect((await readHistory(store.db, "valley", { limit: 1 }))[0]!.revision).toBe(revision);
});

test("sheets of all devices hold settings and names of secrets, and no secret", async () => {
  const world = withPatches(made.world, proposeAddresses(made.world));
  const { sheets } = JSON.parse(writeSheetsJson(world)) as { sheets: { radioId: string; keyRef: string }[] };
  expect(sheets.map(({ radioId }) => radioId)).toEqual([...world.radios.keys()]);
  expect(sheets.find(({ radioId }) => radioId === "r0")).toMatchObject({
    settings: { mode: "client", address: `${world.radios.get("r0")!.address}/24` },
    keyRef: "network:sector-2",
  });
  const text = writeSheetsText(world);
  expect(text).toMatch(/r0 \(Brisote Vela 5C, house-0\)\n {2}Name +r0\n {2}Mode +client\n/);
  for (const ref of ["device:r0", "network:sector-2"]) {
    const secret = await secretOf(store, "valley", ref);
    expect(writeSheetsJson(world)).not.toContain(secret);
    expect(text).not.toContain(secret);
  }
});
