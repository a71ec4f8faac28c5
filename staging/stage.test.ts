import { afterEach, describe, expect, test } from "@jest/globals";
import { proposeAddresses } from "#core/addressing";
import { withPatches, type World } from "#core/plan";
import { configSheet, progressOf, sheetContext, stagingGroups, type StagingNote } from "#core/staging";
import { radioIn, town, valley } from "#core/testing";
import { boxesOf, startPracticeBench, type PracticeBench } from "#simulators";
import { practiceBench, stageGroup, stagingTasks, type DeviceAdapter } from "#staging";

/** The town with more customers on its second sector, each with an address. */
function planned(moreCustomers = 0): World {
  const { world } = valley(0, (rows) => {
    town(rows);
    for (let i = 0; i < moreCustomers; i++) {
      const id = `more-${i}`;
      rows.subscribers.push({ ...rows.subscribers[0]!, id, name: id });
      rows.radios.push({ ...radioIn(rows, "r0"), id: `radio-${id}`, name: id, subscriberId: id });
      rows.links.push({ ...rows.links.at(-1)!, id: `link-${id}`, bRadioId: `radio-${id}` });
    }
    rows.sites.forEach((site, i) => Object.assign(site, { subnet: `10.${i}.0.0/16`, gateway: `10.${i}.0.1` }));
    radioIn(rows, "r0").firmware = "3.1.0";
    radioIn(rows, "sector-2").firmware = "4.2.1";
  });
  return withPatches(world, proposeAddresses(world));
}

class Killed extends Error {}

/** What a bench's keeper holds: notes and secrets, which outlive a run. */
class Keeper {
  notes = new Map<string, StagingNote>();
  secrets = new Map<string, string>();

  async stage(world: World, bench: DeviceAdapter): Promise<void> {
    const task = stagingTasks(world, this.notes);
    for (const { leaderId, followerIds } of stagingGroups(world))
      await stageGroup(bench, task(leaderId), followerIds.map(task), {
        who: "ana",
        practiceRun: "run",
        now: () => new Date("2026-11-26T10:00:00Z"),
        secret: async (ref) => {
          const known = this.secrets.get(ref) ?? `secret ${ref}`;
          this.secrets.set(ref, known);
          return known;
        },
        keep: async (note) => void this.notes.set(note.radioId, structuredClone(note)),
        check: () => undefined,
      });
  }

  problems(): [string, string][] {
    return [...this.notes.values()].filter(({ problem }) => problem).map(({ radioId, problem }) => [radioId, problem]);
  }
}

const running: PracticeBench[] = [];
const benchOf = async (world: World, options?: Parameters<typeof startPracticeBench>[1]) => {
  const bench = await startPracticeBench(boxesOf(world), options);
  running.push(bench);
  return bench;
};
afterEach(async () => {
  for (const bench of running.splice(0)) await bench.stop();
});

/** That every device stands as the plan wants it, with its own password, encrypted, unplugged, and with its leader's version. */
function expectStaged(world: World, bench: PracticeBench, keeper: Keeper): void {
  const context = sheetContext(world);
  for (const { serial, radioId } of boxesOf(world)) {
    const device = bench.inside(serial)!;
    expect(device.settings).toEqual(configSheet(world, radioId, context).settings);
    expect(device.password).toBe(`secret device:${radioId}`);
    expect(device.key).toBe(`secret ${configSheet(world, radioId, context).keyRef}`);
    expect(device.isPlugged).toBe(false);
    const leaderId = context.leaderOf.get(radioId);
    if (leaderId !== undefined)
      expect(device.firmware).toBe(bench.inside(keeper.notes.get(leaderId)!.serial)!.firmware);
    expect(progressOf(keeper.notes.get(radioId))).toMatchObject({ isStaged: true, isPacked: false });
  }
  expect(keeper.problems()).toEqual([]);
  expect(bench.collisions()).toBe(0);
}

describe("on the practice bench", () => {
  test("every device of a plan is staged, one at a time, each brought to its leader's version", async () => {
    const world = planned();
    const bench = await benchOf(world);
    const keeper = new Keeper();
    await keeper.stage(world, practiceBench(bench.url));
    expectStaged(world, bench, keeper);
    expect(keeper.notes.get("r0")!.done.firmware!.note).toBe("3.1.0 to 4.2.1");
    expect(keeper.notes.get("r0")!.done.pair!.note).toMatch(/dBm from sector-2, \d+ Mbit\/s$/);
    expect(keeper.notes.get("sector-2")!.done.pair!.note).toBe("tried by those that follow it");
  });

  test("500 devices that leave their boxes with one address are staged without a collision", async () => {
    const world = planned(490);
    expect(world.radios.size).toBe(500);
    const bench = await benchOf(world);
    const keeper = new Keeper();
    await keeper.stage(world, practiceBench(bench.url));
    expectStaged(world, bench, keeper);
  }, 120_000);

  test("broken off at any step it goes on, and no device is lost or done twice", async () => {
    const world = planned();
    let calls = 1;
    for (let isOver = false; !isOver; calls += 13) {
      const bench = await benchOf(world);
      const keeper = new Keeper();
      const own = practiceBench(bench.url);
      let left = calls;
      const dying = new Proxy(own, {
        get: (target, name) =>
          name in target
            ? (...asked: unknown[]) => {
                if (left-- === 0) throw new Killed();
                return (target[name as keyof DeviceAdapter] as (...all: unknown[]) => unknown)(...asked);
              }
            : undefined,
      });
      isOver = await keeper.stage(world, dying).then(
        () => true,
        (error: unknown) => {
          expect(error).toBeInstanceOf(Killed);
          return false;
        },
      );
      // Whoever comes next pulls all plugs first.
      for (const { serial } of boxesOf(world)) await own.unplug(serial);
      const done = [...keeper.notes]
        .filter(([, note]) => progressOf(note).isStaged)
        .map(([id, note]) => [id, note.done]);
      await keeper.stage(world, practiceBench(bench.url));
      expectStaged(world, bench, keeper);
      for (const [id, before] of done)
        if (sheetContext(world).leaderOf.has(id as string))
          expect(keeper.notes.get(id as string)!.done).toEqual(before);
    }
    expect(calls).toBeGreaterThan(80);
  }, 120_000);

  test("a dead chain is that device's problem, and the others go on", async () => {
    const world = planned();
    const bench = await benchOf(world, { deadChains: new Set(["r1"]) });
    const keeper = new Keeper();
    await keeper.stage(world, practiceBench(bench.url));
    expect(keeper.problems()).toEqual([["r1", expect.stringContaining("a chain is dead")]]);
    expect(progressOf(keeper.notes.get("r1"))).toMatchObject({ isStaged: false });
    expect(progressOf(keeper.notes.get("r2"))).toMatchObject({ isStaged: true });
    expect(keeper.notes.get("r1")!.done.power).toBeUndefined();
  });
});

describe("the stand-ins behave as such devices do", () => {
  const world = planned();
  const boxOf = (radioId: string) => boxesOf(world).find((box) => box.radioId === radioId)!;
  const delivered = { address: "192.168.1.20", password: "as-delivered" };

  test("two with one address answer for each other, and it is counted", async () => {
    const bench = await benchOf(world);
    const adapter = practiceBench(bench.url);
    await adapter.laptop("192.168.1.2/24");
    for (const id of ["r0", "r1"]) await adapter.plug(boxOf(id).serial);
    await expect(adapter.status(delivered)).rejects.toThrow("two devices answer at 192.168.1.20");
    expect(bench.collisions()).toBe(1);
    await adapter.unplug(boxOf("r1").serial);
    expect((await adapter.status(delivered))!.serial).toBe(boxOf("r0").serial);
  });

  test("from another network, or with another password, nothing is reached", async () => {
    const adapter = practiceBench((await benchOf(world)).url);
    await adapter.plug(boxOf("r0").serial);
    expect(await adapter.status(delivered)).toBeNull();
    await adapter.laptop("10.0.0.2/24");
    expect(await adapter.status(delivered)).toBeNull();
    await expect(adapter.restart(delivered)).rejects.toThrow("the laptop does not reach 192.168.1.20");
    await adapter.laptop("192.168.1.2/24");
    expect(await adapter.status({ ...delivered, password: "guessed" })).toBeNull();
    expect(await adapter.status({ ...delivered, address: "192.168.1.21" })).toBeNull();
  });

  test("what is no request is refused, and the bench goes on", async () => {
    const { url } = await benchOf(world);
    for (const path of ["/at/%E0%A4%A/status", "/at/nowhere/status", "/nothing"])
      expect((await fetch(`${url}${path}`)).status).toBeGreaterThanOrEqual(400);
    for (const body of ["{", "x".repeat(30_000), '{"serial":7}'])
      expect((await fetch(`${url}/plug`, { method: "POST", body })).status).toBeGreaterThanOrEqual(400);
    expect((await fetch(`${url}/boxes`)).status).toBe(200);
  });

  test("settings hold from the restart, passwords at once", async () => {
    const adapter = practiceBench((await benchOf(world)).url);
    await adapter.plug(boxOf("r0").serial);
    await adapter.laptop("192.168.1.2/16");
    await adapter.write(delivered, { password: "own", name: "north", address: "192.168.7.7/24" });
    const own = { ...delivered, password: "own" };
    expect((await adapter.status(own))!.settings.name).toBeUndefined();
    await adapter.restart(own);
    expect(await adapter.status(own)).toBeNull();
    expect((await adapter.status({ address: "192.168.7.7", password: "own" }))!.settings.name).toBe("north");
    await expect(adapter.write({ address: "192.168.7.7", password: "own" }, { address: "here" })).rejects.toThrow(
      '"here" is no address',
    );
  });

  test("a client of another version does not see its access point", async () => {
    const bench = await benchOf(world);
    const adapter = practiceBench(bench.url);
    const keeper = new Keeper();
    await keeper.stage(world, adapter);
    const client = { address: world.radios.get("r0")!.address, password: "secret device:r0" };
    for (const id of ["sector-2", "r0"]) await adapter.plug(boxOf(id).serial);
    await adapter.laptop("10.2.200.1/16");
    expect(await adapter.tryPair(client)).toMatchObject({ joined: true, peer: "sector-2" });
    await adapter.update(client, "3.9.0");
    await adapter.restart(client);
    expect(await adapter.tryPair(client)).toEqual({ joined: false, hears: [] });
  });
});
