import { setPatch, type World } from "#core/plan";
import { progressOf, stagingGroups, stagingProblems, type StagingNote } from "#core/staging";
import { counted } from "#core/words";
import { planContext } from "#engine";
import { boxesOf, startPracticeBench } from "#simulators";
import { practiceBench, stageGroup, stagingTasks } from "#staging";
import { readStaging, recordChange, secretOf, writeStaging, type Author, type Store } from "#store";
import type { JobKind } from "./tools";

/** Radios to be staged on the practice bench; all of the plan where none are named. */
interface StagingOrder {
  author: Author;
  radioIds: string[] | null;
}

/**
 * Stages the stand-ins of a plan's devices one after another. What was noted of real devices is never touched; a run that broke off goes
 * on where it was. In the demo, whose devices are all stand-ins, the versions that they have now go into the plan as one change.
 */
export const staging: JobKind<StagingOrder> = {
  work: async (store, { id, planId, order }, { progress, check }) => {
    const context = await planContext(store, planId);
    if (!context) throw new Error("The plan is gone.");
    const { world } = await context.load();
    const known = await readStaging(store.db, planId);
    const notes = new Map(known.filter(({ practiceRun }) => practiceRun === id).map((note) => [note.radioId, note]));
    const real = new Set(known.filter(({ practiceRun }) => practiceRun === null).map(({ radioId }) => radioId));
    const problems = stagingProblems(world);
    const taskOf = stagingTasks(world, notes);
    const groups = stagingGroups(world, order.radioIds ? new Set(order.radioIds) : undefined)
      .filter(({ leaderId }) => !problems.has(leaderId))
      .map(({ leaderId, followerIds }) => ({ leaderId, followerIds: followerIds.filter((one) => !problems.has(one)) }));
    const ids = groups.flatMap(({ leaderId, followerIds }) => [leaderId, ...followerIds]);
    let ready = ids.filter((one) => progressOf(notes.get(one)).isStaged).length;
    const bench = await startPracticeBench(boxesOf(world));
    try {
      const adapter = practiceBench(bench.url);
      for (const { leaderId, followerIds } of groups) {
        check();
        await stageGroup(
          adapter,
          taskOf(leaderId),
          followerIds.map(taskOf),
          {
            who: order.author.who,
            practiceRun: id,
            now: () => new Date(),
            secret: (ref) => secretOf(store, planId, ref),
            keep: async (note) => {
              notes.set(note.radioId, note);
              if (!real.has(note.radioId)) await writeStaging(store.db, planId, note);
            },
            check,
          },
          ({ radioId, problem }) => {
            if (problem === "") ready++;
            progress(ready / ids.length, `${world.radios.get(radioId)!.name}: ${problem || "practised"}`);
          },
        );
      }
    } finally {
      await bench.stop();
    }
    if (world.plan.isDemo) await noteVersions(store, planId, `${id}-versions`, order.author, world, ids, notes);
    const staged = ids.filter((one) => progressOf(notes.get(one)).isStaged).length;
    const left = ids.length - staged;
    const waiting = [...problems.keys()].filter((one) => !order.radioIds || order.radioIds.includes(one)).length;
    return {
      message: [
        `${counted(staged, "device")} practised`,
        left > 0 && `${counted(left, "device")} with something to mend`,
        waiting > 0 && `${counted(waiting, "radio")} for which the plan is not ready`,
        `${counted(bench.collisions(), "collision")} of addresses`,
      ]
        .filter(Boolean)
        .join(", "),
    };
  },
};

/** Writes the versions that were found or put on the devices into the plan. */
async function noteVersions(
  store: Store,
  planId: string,
  op: string,
  author: Author,
  world: World,
  ids: readonly string[],
  notes: ReadonlyMap<string, StagingNote>,
): Promise<void> {
  const patches = ids.flatMap((radioId) => {
    const firmware = notes.get(radioId)?.foundFirmware ?? "";
    return firmware === "" || firmware === world.radios.get(radioId)!.firmware
      ? []
      : [setPatch("radios", radioId, { firmware })];
  });
  if (patches.length === 0) return;
  await recordChange(store.db, {
    planId,
    ...author,
    op,
    what: `Staging: versions of ${counted(patches.length, "radio")}`,
    patches,
  });
}

/** What such work is called. */
export const stagingTitle = (world: World): string => `Staging of ${world.plan.name}`;
