import { parsedAddress, takenAddresses } from "../addressing";
import { endOf, type World } from "../plan";
import { powerSettingText, powerToSet } from "../radio";
import { figure } from "../words";
import { BENCH_M, benchLevel, MOST_APART_DB } from "./expect";
import { laptopAddress } from "./order";
import { settingText, type ConfigSheet, type SheetContext } from "./sheet";
import type { StagingStep } from "./steps";

/** What each step says of one device. */
export function stagingTexts(world: World, sheet: ConfigSheet, context: SheetContext): Record<StagingStep, string> {
  const { radio, model } = endOf(world, sheet.radioId);
  const { settings, firmware } = sheet;
  const delivered = model.boxAddress;
  const address = delivered.split("/")[0]!;
  const laptop = laptopAddress(delivered) ?? "an address of the same network";
  const backLaptop = laptopAddress(settings.address, takenAddresses(world));
  const leaderId = context.leaderOf.get(radio.id);
  const benchPower = powerSettingText(powerToSet(model, radio.polarization, model.powerMinDbm));
  const peer = leaderId === undefined ? null : world.radios.get(leaderId)!;
  return {
    label: "Note the serial number from its label. Seals stay untouched.",
    alone: `Plug in this one alone: every ${model.model} leaves its box at ${address}, and two of them answer for each other.`,
    reach: `Laptop to ${laptop}; the device answers at ${address}.`,
    firmware: firmwareText(firmware, peer?.name ?? null),
    password: "Change its password to the one that is kept for it; Configuration shows it.",
    settings: `Set it as its sheet says: ${settings.mode}, network ${settings.network}, encryption on with that network’s key, rules ${settings.region}, ${settingText(settings.frequencyMHz)} MHz over ${settingText(settings.widthMHz)} MHz, address ${settings.address || "none yet"}. Power down to ${benchPower} for the bench. Restart.`,
    back: `Laptop ${backLaptop ? `to ${backLaptop}` : "into its network"}; the device answers at ${parsedAddress(settings.address.split("/")[0]!)?.toString() ?? "no address yet"}. Then the laptop back to ${laptop} for the next box.`,
    pair: peer ? pairText(world, peer.id, radio.id) : "It has no other end to be tried with: those that follow it are.",
    power: `Power to the plan’s ${powerSettingText({ dbm: settings.txPowerDbm, of: sheet.powerOf })}. From now on nobody stands in front of it while it is fed.`,
    compare: "What it reports is as its sheet says, setting by setting.",
    pack: `Label on, into its box with its bracket, for ${sheet.placeName}.`,
  };
}

function firmwareText(firmware: string, peerName: string | null): string {
  const update = "Update before anything else, and note it on the radio’s sheet.";
  if (peerName === null)
    return firmware === ""
      ? "Note its version on the radio’s sheet. It keeps the channel, so whoever follows it is brought to the same."
      : `It must be ${firmware}, as the plan has it. ${update}`;
  return firmware === ""
    ? `It must be what ${peerName} has, which nobody has noted yet: a radio of another version may not see it at all. ${update}`
    : `It must be ${firmware}, as ${peerName} is: a radio of another version may not see it at all. ${update}`;
}

function pairText(world: World, peerId: string, radioId: string): string {
  const { atMostDbm, weakenDb } = benchLevel(endOf(world, peerId), endOf(world, radioId));
  const weaken =
    weakenDb > 0
      ? ` That is ${figure(weakenDb, 0)} dB more than the receiver takes: let them look past each other, or put pads between.`
      : "";
  return `${BENCH_M} m from ${world.radios.get(peerId)!.name}, powers down: it joins, each chain hears at most ${figure(atMostDbm, 0)} dBm, chains within ${MOST_APART_DB} dB of each other; then a minute of traffic.${weaken}`;
}
