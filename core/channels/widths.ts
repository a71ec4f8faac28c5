import { sectorAirtime } from "../capacity";
import { answering, slowing, summarize, type LinkSummary, type ProfileSource } from "../outcome";
import { linksOn, endOf, withPatches, type Link, type Patch, type World } from "../plan";
import { groupChannelsMHz, groupOn, quietChannelsMHz } from "../propose";

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
  const slowedBy = slowing(world, new Set(links.map(({ id }) => id)), between);
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
      return rowOf(withPatches(world, patches), radioId, links, patches, between, slowedBy);
    });
    tried.sort((x, y) => y.served - x.served || x.slowed - y.slowed || x.load - y.load);
    return tried.slice(0, 1).map((row) => ({ ...row, isNow }));
  });
}

function rowOf(
  then: World,
  radioId: string,
  links: readonly Link[],
  patches: Patch[],
  between: ProfileSource,
  slowedBy: ReturnType<typeof slowing>,
): Omit<WidthRow, "isNow"> {
  const answer = answering(then, between);
  const summaries = new Map<string, LinkSummary>();
  let leastSnrDb: number | null = null;
  for (const { id } of links) {
    const link = then.links.get(id)!;
    const found = answer(link);
    summaries.set(id, summarize(then, link, found));
    if (found.path) leastSnrDb = Math.min(leastSnrDb ?? Infinity, found.path.aToB.snrDb, found.path.bToA.snrDb);
  }
  const { down, up, unreached } = sectorAirtime(then, links, summaries);
  const rates = [...summaries.values()].map(({ downMbps }) => downMbps).sort((x, y) => x - y);
  const { frequencyMHz, widthMHz } = then.radios.get(radioId)!;
  return {
    widthMHz,
    frequencyMHz,
    unreached,
    leastSnrDb,
    patches,
    customers: links.length,
    load: Math.max(down, up),
    served: [...summaries.values()].filter(({ served }) => served).length,
    medianMbps: rates[rates.length >> 1] ?? 0,
    slowed: patches.length > 0 ? slowedBy(then, patches) : 0,
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
