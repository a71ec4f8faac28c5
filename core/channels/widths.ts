import { sectorAirtime } from "../capacity";
import type { ProfileSource } from "../outcome";
import { linksOn, endOf, type Link, type Patch, type World } from "../plan";
import { groupChannelsMHz, groupOn, quietChannelsMHz } from "../propose";
import { median } from "../statistics";
import { slowedCount, trialOf, type Trial } from "../trial";

/** A sector on one width, every customer and every neighbour answered in full. */
export interface WidthRow {
  widthMHz: number;
  frequencyMHz: number;
  isNow: boolean;
  /** Busier direction's time at the busy hour, and those who ask and get nothing. */
  load: number;
  unreached: number;
  served: number;
  customers: number;
  /** Middle of the rates toward customers, Mbit/s. */
  medianMbps: number;
  /** Least signal to noise at any end, dB; null where no path has an answer. */
  leastSnrDb: number | null;
  /** Links of others that run slower in its noise than they do now. */
  slowed: number;
  patches: Patch[];
}

/** Quiet channels that are tried for each width; from how far masts stand one cannot tell what customers hear. */
const CHANNELS_TRIED = 4;

/**
 * Every width that a sector and all its customers know, each on the quiet channel that serves most and slows fewest. Throws RangeError for a
 * radio that the plan does not hold.
 */
export function widthTable(world: World, radioId: string, between: ProfileSource): WidthRow[] {
  if (!world.radios.has(radioId)) throw new RangeError(`There is no radio "${radioId}" in the plan.`);
  const links = linksOn(world, radioId);
  const sector = endOf(world, radioId);
  const { frequencyMHz: nowMHz, widthMHz: nowWidth } = sector.radio;
  const before = trialOf(world, between);
  // Its own noise is no reason to avoid a channel.
  const others: World = { ...world, radios: new Map(world.radios) };
  for (const id of [radioId, ...links.map(({ bRadioId }) => bRadioId)]) others.radios.delete(id);
  const widths = [...new Set(sector.model.widthsMHz)].sort((x, y) => x - y);
  return widths.flatMap((widthMHz): WidthRow[] => {
    const isNow = widthMHz === nowWidth;
    const open = new Set(groupChannelsMHz(world, radioId, widthMHz));
    if (!isNow && open.size === 0) return [];
    const quiet = quietChannelsMHz(others, [sector.place], sector, widthMHz, nowMHz, "ptmp").filter((one) =>
      open.has(one),
    );
    const tried = (isNow ? [nowMHz] : quiet.slice(0, CHANNELS_TRIED)).map((frequencyMHz) => {
      const patches = isNow ? [] : groupOn(world, radioId, frequencyMHz, widthMHz);
      return rowOf(before, radioId, links, patches);
    });
    tried.sort((x, y) => y.served - x.served || x.slowed - y.slowed || x.load - y.load);
    return tried.slice(0, 1).map((row) => ({ ...row, isNow }));
  });
}

function rowOf(before: Trial, radioId: string, links: readonly Link[], patches: Patch[]): Omit<WidthRow, "isNow"> {
  const after = before.after(patches);
  const ids = links.map(({ id }) => id);
  const summaries = new Map(ids.map((id) => [id, after.summary(id)]));
  const snrsDb = ids.flatMap((id) => {
    const { path } = after.answer(id);
    return path ? [path.aToB.snrDb, path.bToA.snrDb] : [];
  });
  const { down, up, unreached } = sectorAirtime(after.world, links, summaries);
  const { frequencyMHz, widthMHz } = after.world.radios.get(radioId)!;
  return {
    widthMHz,
    frequencyMHz,
    unreached,
    leastSnrDb: snrsDb.length > 0 ? Math.min(...snrsDb) : null,
    patches,
    customers: links.length,
    load: Math.max(down, up),
    served: [...summaries.values()].filter(({ served }) => served).length,
    medianMbps: median([...summaries.values()].map(({ downMbps }) => downMbps)) ?? 0,
    slowed: patches.length > 0 ? slowedCount(before, after, patches, new Set(ids)) : 0,
  };
}

/** The width to choose, with the reason in words; null if there are none to choose from. */
export function advisedWidth(rows: readonly WidthRow[]): { row: WidthRow; why: string } | null {
  if (rows.length === 0) return null;
  const most = Math.max(...rows.map(({ served }) => served));
  const serving = rows.filter(({ served }) => served === most);
  const enough = serving.filter(({ load, unreached }) => load <= 1 && unreached === 0);
  if (enough.length === 0) {
    const row = serving.reduce((best, one) => (one.load < best.load ? one : best));
    return { row, why: "none gives time enough for all; this one leaves least to wait for" };
  }
  const [row] = [...enough].sort((x, y) => x.slowed - y.slowed || x.widthMHz - y.widthMHz);
  const harm = row!.slowed === 0 ? "and slows nobody else" : "and slows fewest others";
  return {
    row: row!,
    why: `the narrowest that has time enough for all ${harm}: what is left over hears less noise and leaves room for neighbours`,
  };
}
