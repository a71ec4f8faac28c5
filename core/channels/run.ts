/**
 * What a device sends on and how strongly, dBm; a power of null stays what it is. Powers are a plan's, all chains together: an adapter tells
 * each device the number that its own setting asks for (`powerToSet`).
 */
export interface Air {
  frequencyMHz: number;
  powerDbm: number | null;
}

/** What a device says of itself when it is asked. */
export interface DeviceSays {
  frequencyMHz: number;
  powerDbm: number;
  firmware: string;
  /** Whether it hears its far end; an access point or the near end of a bridge hears somebody. */
  hearsFarEnd: boolean;
}

/** The way to devices on a live network. Nothing is taken as done that was not answered. */
export interface ChannelAdapter {
  /** Null where nobody answers in time. */
  ask: (radioId: string) => Promise<DeviceSays | null>;
  /** Goes to a channel and a power on trial: a device that is not told to keep them within so many seconds returns by itself. */
  tryAir: (radioId: string, air: Air, returnAfterS: number) => Promise<boolean>;
  keep: (radioId: string) => Promise<boolean>;
  /** Goes to a channel and a power at once and keeps them; asked twice it stays there. */
  giveBack: (radioId: string, air: Air) => Promise<boolean>;
  wait: (seconds: number) => Promise<void>;
}

/** Radios that change together: whoever leads is nearest to the feed and goes last. */
export interface RunGroup {
  name: string;
  leaderId: string;
  /** Farthest from the feed first. */
  followerIds: string[];
  fromMHz: number;
  /** As it is where only powers change. */
  toMHz: number;
  /** Radios whose power changes, by their ids. */
  powers: Readonly<Record<string, { fromDbm: number; toDbm: number }>>;
  /** Whether its far site stays reachable over another bridge while this one changes; null where it is no bridge. */
  hasSpareWay: boolean | null;
  /** How long the new channel is listened to for radar before anybody may send there, s; 0 where nobody has to. */
  radarWaitS: number;
}

export type GroupState = "done" | "wentBack" | "notBegun" | "lost";
export interface RunLine {
  group: string;
  radioId: string | null;
  text: string;
}
export interface GroupReport {
  name: string;
  state: GroupState;
  /** Why it is not done; empty where it is. */
  why: string;
  /** Radios that nobody heard of at the end, or that do not stand where their group does. */
  missing: string[];
}

/** Seconds that a device takes over a command, between two looks, and how often each is tried. */
const COMMAND_S = 10;
const LOOK_S = 20;
const LOOKS = 9;
const TRIES = 3;
/** How often those that have not come back are told to, with time to look for their access point in between. */
const ROUNDS_BACK = 4;
/** Left over before a trial ends, s. */
const SPARE_S = 120;

interface RunHooks {
  say: (line: RunLine) => void;
  /** Whether somebody wants it stopped: what is under way then goes back. */
  isStopped: () => boolean;
}

/**
 * Changes channels and powers on a live network, group by group in their order. Each device goes on trial; only once all of a group hear
 * each other as they shall stand are they told to keep it, the leader last. Whatever goes wrong before that, everyone returns by himself, since
 * nobody was told to stay. After a group that did not come through nothing further is begun.
 */
export async function runChanges(
  groups: readonly RunGroup[],
  adapter: ChannelAdapter,
  hooks: RunHooks,
): Promise<GroupReport[]> {
  const reports: GroupReport[] = [];
  for (const group of groups) {
    const stopped = hooks.isStopped() ? "stopped before it was begun" : "";
    const before = reports.some(({ state }) => state !== "done") ? "an earlier group did not come through" : "";
    const why = stopped || before;
    reports.push(
      why ? { name: group.name, state: "notBegun", why, missing: [] } : await runGroup(group, adapter, hooks),
    );
  }
  return reports;
}

/** A radio as it stands before a run, and as it shall stand after it. */
const airOf = ({ fromMHz, toMHz, powers }: RunGroup, radioId: string, when: "before" | "after"): Air => {
  const power = powers[radioId];
  return when === "before"
    ? { frequencyMHz: fromMHz, powerDbm: power?.fromDbm ?? null }
    : { frequencyMHz: toMHz, powerDbm: power?.toDbm ?? null };
};

/** Powers nearer than this are one: devices tell them in steps, dB. */
const SAME_POWER_DB = 0.3;
const standsOn = (says: DeviceSays, { frequencyMHz, powerDbm }: Air): boolean =>
  says.frequencyMHz === frequencyMHz && (powerDbm === null || Math.abs(says.powerDbm - powerDbm) < SAME_POWER_DB);

const airWords = ({ frequencyMHz, powerDbm }: Air): string =>
  `${frequencyMHz} MHz${powerDbm === null ? "" : ` with ${powerDbm} dBm, all chains together`}`;

/** Radios of a group that are told something: all where the channel changes, else those whose power does. The leader last. */
export function toldRadios({ leaderId, followerIds, fromMHz, toMHz, powers }: RunGroup): string[] {
  const all = [...followerIds, leaderId];
  return fromMHz === toMHz ? all.filter((id) => powers[id]) : all;
}

/** How long a group's trial lasts: time for all of it to be told, to listen for radar, to be found and to be told to keep it. */
export const trialSeconds = ({ followerIds, radarWaitS }: Pick<RunGroup, "followerIds" | "radarWaitS">): number =>
  SPARE_S + radarWaitS + LOOKS * LOOK_S + (followerIds.length + 1) * COMMAND_S * TRIES * 2;

async function runGroup(group: RunGroup, adapter: ChannelAdapter, { say, isStopped }: RunHooks): Promise<GroupReport> {
  const { name, leaderId, followerIds, radarWaitS } = group;
  const all = [...followerIds, leaderId];
  const told = toldRadios(group);
  const tell = (text: string, radioId: string | null = null) => say({ group: name, radioId, text });
  /** Radios that nobody hears of, or not where they should stand. */
  const missing = async (when: "before" | "after" | null = null) => {
    const away: string[] = [];
    for (const id of all) {
      const says = await askAgain(adapter, id);
      if (!says || (when !== null && !standsOn(says, airOf(group, id, when)))) away.push(id);
    }
    return away;
  };
  const notBegun = async (why: string): Promise<GroupReport> => ({
    name,
    state: "notBegun",
    why,
    missing: await missing(),
  });

  tell(`looking at ${all.length} radios before anything is changed`);
  if (group.hasSpareWay === false) tell("there is no other way to its far site: whoever is lost there is driven to");
  const versions = new Set<string>();
  for (const id of all) {
    const says = await askAgain(adapter, id);
    if (!says) return notBegun("a radio does not answer: it would be left behind");
    const before = airOf(group, id, "before");
    if (!standsOn(says, before)) {
      const stands = airWords({ ...says, powerDbm: before.powerDbm === null ? null : says.powerDbm });
      return notBegun(`a radio stands on ${stands} instead of ${airWords(before)}`);
    }
    versions.add(says.firmware);
  }
  if (versions.size > 1)
    return notBegun(`versions differ (${[...versions].join(", ")}): a client may not see its access point`);

  const trialS = trialSeconds(group);
  const back = async (why: string): Promise<GroupReport> => {
    tell(`${why}: everyone goes back to what was`);
    let away = all;
    // Whoever is not reached returns by himself, or follows a leader that stayed: then all are told once more.
    for (let round = 0; round < ROUNDS_BACK && away.length > 0; round++) {
      for (const id of told) await again(() => adapter.giveBack(id, airOf(group, id, "before")));
      await adapter.wait(trialS + 2 * LOOK_S * LOOKS);
      away = await missing("before");
    }
    tell(
      away.length === 0
        ? "all are back"
        : `${away.length} are not heard of as they were yet: they go on looking for their access point`,
    );
    return { name, state: away.length === 0 ? "wentBack" : "lost", why, missing: away };
  };
  for (const id of told) {
    if (isStopped()) return back("stopped");
    const after = airOf(group, id, "after");
    const isTold = await again(() => adapter.tryAir(id, after, trialS));
    // A follower that went without a word is looked for on the new channel.
    if (!isTold && id === leaderId) return back("the leader did not answer");
    tell(`on trial on ${airWords(after)}, back by itself after ${Math.ceil(trialS / 60)} min`, id);
  }
  if (radarWaitS > 0) {
    tell(`listening for radar for ${radarWaitS} s`, leaderId);
    await adapter.wait(radarWaitS);
  }
  if (!(await allThere(group, adapter))) return back("not everyone was found as it shall be");
  if (isStopped()) return back("stopped");
  for (const id of told) {
    if (!(await again(() => adapter.keep(id)))) return back("a radio did not say that it keeps what it is on");
    tell("keeps it", id);
  }
  if ((await missing("after")).length > 0) return back("a radio was not heard any more after it was told to stay");
  tell("done");
  return { name, state: "done", why: "", missing: [] };
}

/** Whether everyone answers as it shall stand within the time that looks are given. */
async function allThere(group: RunGroup, adapter: ChannelAdapter): Promise<boolean> {
  const { leaderId, followerIds } = group;
  for (let look = 0; look < LOOKS; look++) {
    await adapter.wait(LOOK_S);
    let there = 0;
    for (const id of [leaderId, ...followerIds]) {
      const says = await adapter.ask(id);
      if (says && standsOn(says, airOf(group, id, "after")) && (says.hearsFarEnd || id === leaderId)) there++;
    }
    if (there === followerIds.length + 1) return true;
  }
  return false;
}

async function again(ask: () => Promise<boolean>): Promise<boolean> {
  for (let tries = 0; tries < TRIES; tries++) if (await ask()) return true;
  return false;
}
async function askAgain(adapter: ChannelAdapter, id: string): Promise<DeviceSays | null> {
  for (let tries = 0; tries < TRIES; tries++) {
    const says = await adapter.ask(id);
    if (says) return says;
    await adapter.wait(COMMAND_S);
  }
  return null;
}
