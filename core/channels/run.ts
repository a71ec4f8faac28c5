/** What a device says of itself when it is asked. */
export interface DeviceSays {
  frequencyMHz: number;
  firmware: string;
  /** Whether it hears its far end; an access point or the near end of a bridge hears somebody. */
  hearsFarEnd: boolean;
}

/** The way to devices on a live network. Nothing is taken as done that was not answered. */
export interface ChannelAdapter {
  /** Null where nobody answers in time. */
  ask: (radioId: string) => Promise<DeviceSays | null>;
  /** Goes to a channel on trial: a device that is not told to keep it within so many seconds returns by itself. */
  tryChannel: (radioId: string, frequencyMHz: number, returnAfterS: number) => Promise<boolean>;
  keep: (radioId: string) => Promise<boolean>;
  /** Goes to a channel at once and keeps it; asked twice it stays there. */
  giveBack: (radioId: string, frequencyMHz: number) => Promise<boolean>;
  wait: (seconds: number) => Promise<void>;
}

/** Radios that change together: whoever leads is nearest to the feed and goes last. */
export interface RunGroup {
  name: string;
  leaderId: string;
  /** Farthest from the feed first. */
  followerIds: string[];
  fromMHz: number;
  toMHz: number;
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

export interface RunHooks {
  say: (line: RunLine) => void;
  /** Whether somebody wants it stopped: what is under way then goes back. */
  isStopped: () => boolean;
}

/**
 * Changes channels on a live network, group by group in their order. Each device goes on trial; only once all of a group hear each other
 * on the new channel are they told to keep it, the leader last. Whatever goes wrong before that, everyone returns by himself, since
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

/** How long a group's trial lasts: time for all of it to be told, to listen for radar, to be found and to be told to keep it. */
export const trialSeconds = ({ followerIds, radarWaitS }: Pick<RunGroup, "followerIds" | "radarWaitS">): number =>
  SPARE_S + radarWaitS + LOOKS * LOOK_S + (followerIds.length + 1) * COMMAND_S * TRIES * 2;

async function runGroup(group: RunGroup, adapter: ChannelAdapter, { say, isStopped }: RunHooks): Promise<GroupReport> {
  const { name, leaderId, followerIds, fromMHz, toMHz, radarWaitS } = group;
  const all = [...followerIds, leaderId];
  const tell = (text: string, radioId: string | null = null) => say({ group: name, radioId, text });
  /** Radios that nobody hears of, or not where they should stand. */
  const missing = async (onMHz: number | null = null) => {
    const away: string[] = [];
    for (const id of all) {
      const says = await askAgain(adapter, id);
      if (!says || (onMHz !== null && says.frequencyMHz !== onMHz)) away.push(id);
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
    if (says.frequencyMHz !== fromMHz)
      return notBegun(`a radio stands on ${says.frequencyMHz} MHz instead of ${fromMHz}`);
    versions.add(says.firmware);
  }
  if (versions.size > 1)
    return notBegun(`versions differ (${[...versions].join(", ")}): a client may not see its access point`);

  const trialS = trialSeconds(group);
  const back = async (why: string): Promise<GroupReport> => {
    tell(`${why}: everyone goes back to ${fromMHz} MHz`);
    let away = all;
    // Whoever is not reached returns by himself, or follows a leader that stayed: then all are told once more.
    for (let round = 0; round < ROUNDS_BACK && away.length > 0; round++) {
      for (const id of all) await again(() => adapter.giveBack(id, fromMHz));
      await adapter.wait(trialS + 2 * LOOK_S * LOOKS);
      away = await missing(fromMHz);
    }
    tell(
      away.length === 0
        ? "all are back"
        : `${away.length} are not heard of on ${fromMHz} MHz yet: they go on looking for their access point`,
    );
    return { name, state: away.length === 0 ? "wentBack" : "lost", why, missing: away };
  };
  for (const id of all) {
    if (isStopped()) return back("stopped");
    const isTold = await again(() => adapter.tryChannel(id, toMHz, trialS));
    // A follower that went without a word is looked for on the new channel.
    if (!isTold && id === leaderId) return back("the leader did not answer");
    tell(`on trial on ${toMHz} MHz, back by itself after ${Math.ceil(trialS / 60)} min`, id);
  }
  if (radarWaitS > 0) {
    tell(`listening for radar for ${radarWaitS} s`, leaderId);
    await adapter.wait(radarWaitS);
  }
  if (!(await allThere(group, adapter))) return back("not everyone was found on the new channel");
  if (isStopped()) return back("stopped");
  for (const id of all) {
    if (!(await again(() => adapter.keep(id)))) return back("a radio did not say that it keeps the channel");
    tell("keeps it", id);
  }
  if ((await missing(toMHz)).length > 0) return back("a radio was not heard any more after it was told to stay");
  tell("done");
  return { name, state: "done", why: "", missing: [] };
}

/** Whether everyone answers from the new channel within the time that looks are given. */
async function allThere({ leaderId, followerIds, toMHz }: RunGroup, adapter: ChannelAdapter): Promise<boolean> {
  for (let look = 0; look < LOOKS; look++) {
    await adapter.wait(LOOK_S);
    let there = 0;
    for (const id of [leaderId, ...followerIds]) {
      const says = await adapter.ask(id);
      if (says?.frequencyMHz === toMHz && (says.hearsFarEnd || id === leaderId)) there++;
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
