import { takenAddresses } from "#core/addressing";
import { endOf, type World } from "#core/plan";
import { powerToSet } from "#core/radio";
import {
  benchLevel,
  configSheet,
  laptopAddress,
  sheetContext,
  type BenchLevel,
  type ConfigSheet,
  type StagingNote,
} from "#core/staging";

/** What is to be done with one device. */
export interface StagingTask {
  sheet: ConfigSheet;
  /** With their prefix lengths. */
  boxAddress: string;
  boxLaptop: string;
  planLaptop: string;
  /** The power that it is tried with, dBm. */
  benchPowerDbm: number;
  /** What it should hear of its leader; null for a leader. */
  level: BenchLevel | null;
  /** What was noted of it before. */
  note: StagingNote | null;
}

/** The task of each radio of a plan that is ready for the bench. */
export function stagingTasks(world: World, notes: ReadonlyMap<string, StagingNote>): (radioId: string) => StagingTask {
  const context = sheetContext(world);
  const taken = takenAddresses(world);
  return (radioId) => {
    const end = endOf(world, radioId);
    const { boxAddress, powerMinDbm } = end.model;
    const benchPower = powerToSet(end.model, end.radio.polarization, powerMinDbm);
    const sheet = configSheet(world, radioId, context);
    const leaderId = context.leaderOf.get(radioId);
    return {
      sheet,
      boxAddress,
      // A model's prefix leaves room for a laptop; in a network that is full the device's own address is refused by the bench.
      boxLaptop: laptopAddress(boxAddress) ?? boxAddress,
      planLaptop: laptopAddress(sheet.settings.address, taken) ?? sheet.settings.address,
      benchPowerDbm: benchPower.dbm,
      level: leaderId === undefined ? null : benchLevel(endOf(world, leaderId), end),
      note: notes.get(radioId) ?? null,
    };
  };
}
