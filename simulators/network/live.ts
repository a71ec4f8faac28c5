import type { Air, ChannelAdapter, DeviceSays, RunGroup } from "#core/channels";
import { uniformAt } from "./noise";

/** What a device of the simulated live network does wrong while its channel is changed. */
export interface LiveFault {
  radioId: string;
  /** Seconds from the start of the run. */
  atS: number;
  kind: "restart" | "powerCut" | "radar" | "deaf";
  /** For how long, s. */
  lastsS: number;
}

interface Device {
  radioId: string;
  leaderId: string | null;
  /** Where it stands, what it starts with, and the other channel that it knows: it keeps in mind where else its group may be. */
  nowMHz: number;
  storedMHz: number;
  otherMHz: number;
  /** Its power now, what it starts with, and what it had at the beginning, dBm. */
  nowDbm: number;
  storedDbm: number;
  readonly atFirstDbm: number;
  /** When a trial ends that nobody told it to keep; null without one. */
  returnsAtS: number | null;
  /** Since when it has not heard its access point; null while it does. */
  alone: number | null;
  downUntilS: number;
  firmware: string;
}

/** The channel of the two that it knows on which a device does not stand. */
const otherOf = ({ nowMHz, storedMHz, otherMHz }: Device): number => (nowMHz === storedMHz ? otherMHz : storedMHz);

/** Goes to a channel and stays; where it stood before is the other one that it knows. */
function moveTo(device: Device, { frequencyMHz, powerDbm }: Air): void {
  if (device.storedMHz !== frequencyMHz) device.otherMHz = device.storedMHz;
  const dbm = powerDbm ?? device.storedDbm;
  Object.assign(device, {
    nowMHz: frequencyMHz,
    storedMHz: frequencyMHz,
    nowDbm: dbm,
    storedDbm: dbm,
    returnsAtS: null,
  });
}

/** Goes back to what is stored. */
const toStored = ({ storedMHz, storedDbm }: Device) => ({ nowMHz: storedMHz, nowDbm: storedDbm, returnsAtS: null });

/** The power of a device whose power nobody changes: only differences count, dBm. */
const SOME_DBM = 20;
/** A link of which nobody says more loses so much until it breaks, dB. */
const SOME_MARGIN_DB = 15;

/** A device that hears nobody for so long looks on its other channel, and goes on like that, s. */
const LOOKS_ELSEWHERE_S = 300;
const RESTART_S = 90;
/** What a command takes to be answered, s. */
const ANSWER_S = 1;
const TIMEOUT_S = 5;

/**
 * Stand-ins for the radios of some groups, on a clock of their own: commands and answers can be lost, devices restart, lose their power
 * or meet a radar while their channel is changed. What is not stored is gone with a restart, as with real ones.
 */
export function liveNetwork(
  groups: readonly RunGroup[],
  {
    seed,
    faults,
    lostShare,
    marginDb = new Map(),
  }: {
    seed: number;
    faults: readonly LiveFault[];
    lostShare: number;
    /** What each follower's link could lose at first, either way, until it breaks, dB. */
    marginDb?: ReadonlyMap<string, number>;
  },
): { adapter: ChannelAdapter; settle: (seconds: number) => void; lost: () => string[]; nowS: () => number } {
  const devices = new Map<string, Device>();
  for (const { leaderId, followerIds, fromMHz, powers } of groups)
    for (const radioId of [leaderId, ...followerIds]) {
      const fromDbm = powers[radioId]?.fromDbm ?? SOME_DBM;
      devices.set(radioId, {
        ...{ radioId, leaderId: radioId === leaderId ? null : leaderId, nowMHz: fromMHz, storedMHz: fromMHz },
        ...{ nowDbm: fromDbm, storedDbm: fromDbm, atFirstDbm: fromDbm },
        ...{ otherMHz: fromMHz, returnsAtS: null, alone: null, downUntilS: 0, firmware: "7.2" },
      });
    }
  let nowS = 0;
  let drawn = 0;
  const waiting = [...faults].sort((x, y) => x.atS - y.atS);
  const deafUntil = new Map<string, number>();
  const isUp = (device: Device) => nowS >= device.downUntilS;
  /** How much stronger a device sends than at first, dB. */
  const gained = ({ nowDbm, atFirstDbm }: Device) => nowDbm - atFirstDbm;
  const isHeard = (device: Device): boolean => {
    const { leaderId, nowMHz, radioId } = device;
    if (leaderId === null) return true;
    const leader = devices.get(leaderId)!;
    const margin = marginDb.get(radioId) ?? SOME_MARGIN_DB;
    const isStrong = [device, leader].every((sender) => margin + gained(sender) > 0);
    return isStrong && isUp(leader) && leader.nowMHz === nowMHz && nowS >= (deafUntil.get(radioId) ?? 0);
  };
  const restart = (device: Device, lastsS: number) => {
    device.downUntilS = nowS + lastsS;
    Object.assign(device, toStored(device), { alone: null });
  };
  const strike = ({ radioId, kind, lastsS }: LiveFault) => {
    const device = devices.get(radioId);
    if (!device) return;
    if (kind === "restart") restart(device, RESTART_S);
    if (kind === "powerCut") restart(device, lastsS);
    if (kind === "deaf") deafUntil.set(radioId, nowS + lastsS);
    // Whoever hears a radar leaves at once for the other channel that he knows.
    if (kind === "radar" && device.leaderId === null) moveTo(device, { frequencyMHz: otherOf(device), powerDbm: null });
  };
  const step = () => {
    nowS++;
    while (waiting[0] && waiting[0].atS <= nowS) strike(waiting.shift()!);
    for (const device of devices.values()) {
      if (!isUp(device)) continue;
      if (device.returnsAtS !== null && nowS >= device.returnsAtS) Object.assign(device, toStored(device));
      if (device.leaderId === null || isHeard(device)) device.alone = null;
      else if (device.alone === null) device.alone = nowS;
      else if (device.returnsAtS === null && nowS - device.alone >= LOOKS_ELSEWHERE_S) {
        device.nowMHz = otherOf(device);
        device.alone = nowS;
      }
    }
  };
  const settle = (seconds: number) => {
    for (let i = 0; i < seconds; i++) step();
  };
  const isLost = () => uniformAt(seed, drawn++) < lostShare;
  /** Does something on a device; false where the command or its answer was lost, though it may have been done. */
  const command = async (radioId: string, work: (device: Device) => void): Promise<boolean> => {
    const device = devices.get(radioId)!;
    const reached = isUp(device) && isHeard(device) && !isLost();
    if (reached) work(device);
    const isAnswered = reached && !isLost();
    settle(isAnswered ? ANSWER_S : TIMEOUT_S);
    return Promise.resolve(isAnswered);
  };
  const adapter: ChannelAdapter = {
    ask: async (radioId) => {
      let says: DeviceSays | null = null;
      const isAnswered = await command(radioId, (device) => {
        const { nowMHz: frequencyMHz, nowDbm: powerDbm, firmware } = device;
        says = { frequencyMHz, powerDbm, firmware, hearsFarEnd: isHeard(device) };
      });
      return isAnswered ? says : null;
    },
    tryAir: (radioId, { frequencyMHz, powerDbm }, returnAfterS) =>
      command(radioId, (device) =>
        Object.assign(device, {
          ...(frequencyMHz === device.storedMHz ? {} : { otherMHz: frequencyMHz }),
          ...{ nowMHz: frequencyMHz, nowDbm: powerDbm ?? device.nowDbm, returnsAtS: nowS + returnAfterS },
        }),
      ),
    keep: (radioId) =>
      command(radioId, (device) => {
        if (device.storedMHz !== device.nowMHz) device.otherMHz = device.storedMHz;
        Object.assign(device, { storedMHz: device.nowMHz, storedDbm: device.nowDbm, returnsAtS: null });
      }),
    giveBack: (radioId, air) => command(radioId, (device) => moveTo(device, air)),
    wait: async (seconds) => settle(seconds),
  };
  /** Devices with power that do not hear their access point. */
  const lost = () =>
    [...devices.values()].filter((device) => isUp(device) && !isHeard(device)).map(({ radioId }) => radioId);
  return { adapter, settle, lost, nowS: () => nowS };
}
