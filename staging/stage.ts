import { powerSettingText } from "#core/radio";
import {
  levelProblem,
  progressOf,
  settingText,
  settingWord,
  sheetDifferences,
  type StagingNote,
  type StagingStep,
} from "#core/staging";
import type { StagingTask } from "./task";
import { BenchError, type Access, type DeviceAdapter, type DeviceStatus } from "./adapter";

export interface StagingTools {
  who: string;
  /** Names the run where the devices are stand-ins; null where they are real. */
  practiceRun: string | null;
  now: () => Date;
  /** The secret of a name, kept before it is told: a device whose password nobody knows is lost. */
  secret: (ref: string) => Promise<string>;
  /** Keeps what was noted of a device. */
  keep: (note: StagingNote) => Promise<void>;
  /** Throws where the work is to break off. */
  check: () => void;
}

const hostOf = (address: string) => address.split("/")[0]!;

/** One device while it is on the bench. */
class Staged {
  readonly note: StagingNote;
  readonly #bench: DeviceAdapter;
  readonly #task: StagingTask;
  readonly #tools: StagingTools;

  constructor(bench: DeviceAdapter, task: StagingTask, tools: StagingTools, serial: string) {
    this.#bench = bench;
    this.#task = task;
    this.#tools = tools;
    const { note } = task;
    const same = note?.serial === serial || note?.serial === "" ? note : null;
    this.note = {
      radioId: task.sheet.radioId,
      practiceRun: tools.practiceRun,
      serial,
      done: same?.done.label ? { label: same.done.label } : {},
      problem: "",
      found: null,
      foundFirmware: "",
    };
  }

  async #planned(): Promise<Access> {
    const { address } = this.#task.sheet.settings;
    return { address: hostOf(address), password: await this.#tools.secret(this.#task.sheet.passwordRef) };
  }

  #tick(step: StagingStep, note = ""): void {
    this.note.done[step] = { at: this.#tools.now().toISOString(), who: this.#tools.who, note };
  }

  /** Plugs it in and brings it to its settings with its power down, from its box or from wherever an earlier run left it. */
  async bring(boxPassword: string, wantedFirmware: string): Promise<void> {
    await this.#bench.plug(this.note.serial);
    this.#tick("alone");
    const planned = await this.#planned();
    await this.#bench.laptop(this.#task.planLaptop);
    const there = await this.#bench.status(planned);
    if (there) {
      this.#tick("reach", "stood at its planned address already");
      await this.#set(planned, there, wantedFirmware);
    } else {
      await this.#unbox(planned, boxPassword, wantedFirmware);
      await this.#bench.laptop(this.#task.planLaptop);
    }
    const now = await this.#bench.status(planned);
    if (!now) throw new BenchError(`it does not answer at ${planned.address} after its restart`);
    this.#isMine(now);
    this.#tick("back", planned.address);
    this.note.foundFirmware = now.firmware;
  }

  /** Sets it up where it was delivered. Broken off between its password and its restart it stands there with its own password. */
  async #unbox(planned: Access, boxPassword: string, wantedFirmware: string): Promise<void> {
    const { boxAddress, boxLaptop } = this.#task;
    await this.#bench.laptop(boxLaptop);
    const address = hostOf(boxAddress);
    for (const password of [boxPassword, planned.password]) {
      const at = { address, password };
      const status = await this.#bench.status(at);
      if (!status) continue;
      this.#tick("reach", address);
      return this.#set(at, status, wantedFirmware);
    }
    throw new BenchError(`nothing answers at ${address}, nor at ${planned.address}: reset it to delivery`);
  }

  /** Brings it to a version, gives it its own password, and writes its settings with its power down. */
  async #set(at: Access, status: DeviceStatus, wantedFirmware: string): Promise<void> {
    const { sheet, benchPowerDbm } = this.#task;
    this.#isMine(status);
    if (wantedFirmware !== "" && status.firmware !== wantedFirmware) {
      await this.#bench.update(at, wantedFirmware);
      await this.#bench.restart(at);
      this.#tick("firmware", `${status.firmware} to ${wantedFirmware}`);
    } else this.#tick("firmware", status.firmware);
    const own = { ...at, password: (await this.#planned()).password };
    await this.#bench.write(at, { password: own.password });
    this.#tick("password");
    const key = await this.#tools.secret(sheet.keyRef);
    await this.#bench.write(own, { ...sheet.settings, txPowerDbm: benchPowerDbm, key });
    await this.#bench.restart(own);
    this.#tick("settings");
  }

  #isMine({ serial }: DeviceStatus): void {
    if (serial !== this.note.serial)
      throw new BenchError(`${serial} answers in its place: another device is plugged in with the same address`);
  }

  /** Tries it against its leader, which is on the bench too. */
  async pair(): Promise<void> {
    const { level } = this.#task;
    if (!level) return this.#tick("pair", "tried by those that follow it");
    await this.#bench.laptop(this.#task.planLaptop);
    const tried = await this.#bench.tryPair(await this.#planned());
    if (!tried.joined)
      throw new BenchError(
        `it does not join: ${tried.hears.length === 0 ? "it hears nobody" : `it hears ${tried.hears.join(", ")} only`}`,
      );
    const problem = levelProblem(tried.levelsDbm, level);
    if (problem) throw new BenchError(problem);
    if (!(tried.mbps > 0)) throw new BenchError("it joins, but nothing passes");
    const levels = tried.levelsDbm.map((dbm) => dbm.toFixed(0).replace("-", "−")).join(" and ");
    this.#tick("pair", `${levels} dBm from ${tried.peer}, ${tried.mbps.toFixed(0)} Mbit/s`);
  }

  /** Turns it up to the plan's power, and holds what it reports against its sheet. */
  async settle(): Promise<void> {
    const { settings } = this.#task.sheet;
    const planned = await this.#planned();
    // Those that follow a leader may lie in other networks.
    await this.#bench.laptop(this.#task.planLaptop);
    await this.#bench.write(planned, { txPowerDbm: settings.txPowerDbm });
    await this.#bench.restart(planned);
    this.#tick("power", powerSettingText({ dbm: settings.txPowerDbm, of: this.#task.sheet.powerOf }));
    const status = await this.#bench.status(planned);
    if (!status) throw new BenchError(`it does not answer at ${planned.address} after its power was set`);
    this.note.found = status.settings;
    const different = sheetDifferences(settings, status.settings);
    if (!status.isEncrypted) throw new BenchError("it reports no encryption");
    if (different.length > 0)
      throw new BenchError(
        different
          .map(
            ({ setting, wanted, found }) =>
              `${settingWord(setting, this.#task.sheet)} is ${settingText(found)}, not ${settingText(wanted)}`,
          )
          .join("; "),
      );
    this.#tick("compare");
  }
}

/** Plugs one in, does something with it, and keeps what came of it; what goes wrong with it is its own problem and nobody else's. */
async function withDevice(
  bench: DeviceAdapter,
  task: StagingTask,
  tools: StagingTools,
  work: (device: Staged, boxPassword: string) => Promise<void>,
): Promise<StagingNote> {
  const box = await bench.boxOf(task.sheet.radioId);
  const device = new Staged(bench, task, tools, box?.serial ?? "");
  try {
    if (!box) throw new BenchError("no box on the bench is meant for it");
    await work(device, box.password);
  } catch (error) {
    if (!(error instanceof BenchError)) throw error;
    device.note.problem = error.message;
  }
  if (box) await bench.unplug(box.serial);
  await tools.keep(device.note);
  return device.note;
}

/**
 * Stages devices that belong together: the leader stays on the bench with its power down, and each follower is brought, tried against it
 * and taken off before the next is plugged in, because all leave their boxes alike. Followers that are staged already are passed over.
 * Whatever broke off before is gone on with: a device is looked for where the plan wants it before it is looked for as delivered.
 */
export async function stageGroup(
  bench: DeviceAdapter,
  leader: StagingTask,
  followers: readonly StagingTask[],
  tools: StagingTools,
  onDone: (note: StagingNote) => void = () => undefined,
): Promise<void> {
  const waiting = followers.filter(({ note }) => !progressOf(note ?? undefined).isStaged);
  if (waiting.length === 0 && progressOf(leader.note ?? undefined).isStaged) return;
  const led = await withDevice(bench, leader, tools, async (device, boxPassword) => {
    await device.bring(boxPassword, leader.sheet.firmware);
    await device.pair();
    for (const task of waiting) {
      tools.check();
      onDone(
        await withDevice(bench, task, tools, async (follower, password) => {
          await follower.bring(password, device.note.foundFirmware);
          await follower.pair();
          await follower.settle();
        }),
      );
    }
    await device.settle();
  });
  onDone(led);
}
