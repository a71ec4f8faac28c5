import type { Backhaul } from "../capacity";
import { endOf, type World } from "../plan";
import { fedSites } from "../outcome";
import { groupName } from "../propose";
import { powerSettingText, powerToSet, type PowerToSet } from "../radio";
import { figure } from "../words";
import { changeOrder } from "./order";
import { askedByRules } from "./limits";
import type { ChannelMove } from "./plan";
import type { RunGroup } from "./run";

/** How long a device listens for radar before it may send on a channel with radars, s: usually a minute, ten where weather radars are. */
const RADAR_WAIT_S = 60;
const WEATHER_RADAR_WAIT_S = 600;
const WEATHER_RADARS_MHZ = [5600, 5650] as const;

/** A group that moves on a live network, and its radios whose power changes; `toMHz` is `fromMHz` where that alone does. */
export interface RunMove extends ChannelMove {
  powers: { radioId: string; fromDbm: number; toDbm: number }[];
}

/** Moves as groups for a run, in the order in which a live network bears them. */
export function runGroups(world: World, moves: readonly RunMove[], backhaul: Backhaul): RunGroup[] {
  const powersOf = new Map(moves.map(({ radioId, powers }) => [radioId, powers]));
  return changeOrder(world, moves, backhaul).map(({ move, radioIds }) => {
    const leaderId = radioIds.at(-1)!;
    const powers = powersOf.get(move.radioId)!;
    return {
      name: groupName(world, move.radioId),
      ...{ leaderId, followerIds: radioIds.slice(0, -1), fromMHz: move.fromMHz, toMHz: move.toMHz },
      powers: Object.fromEntries(powers.map(({ radioId, fromDbm, toDbm }) => [radioId, { fromDbm, toDbm }])),
      hasSpareWay: spareWay(world, move.radioId),
      radarWaitS: radarWaitS(world, move),
    };
  });
}

/** A change of power as somebody at the device sets it: "13 → 16 dBm on each chain". */
export function powerChangeText(world: World, radioId: string, { fromDbm, toDbm }: RunGroup["powers"][string]): string {
  const { model, radio } = endOf(world, radioId);
  const [from, to] = [fromDbm, toDbm].map((dbm) => powerToSet(model, radio.polarization, dbm)) as [
    PowerToSet,
    PowerToSet,
  ];
  return `${figure(from.dbm, Number.isInteger(from.dbm) ? 0 : 1)} → ${powerSettingText(to)}`;
}

/** Whether all sites that a bridge brings the feed keep it without that bridge. */
function spareWay(world: World, radioId: string): boolean | null {
  const own = new Set(
    [...world.links.values()].flatMap(({ id, kind, aRadioId, bRadioId }) =>
      kind === "bridge" && (aRadioId === radioId || bRadioId === radioId) ? [id] : [],
    ),
  );
  if (own.size === 0) return null;
  const without = fedSites(world, ({ id }) => !own.has(id));
  return [...fedSites(world, () => true)].every((siteId) => without.has(siteId));
}

function radarWaitS(world: World, { radioId, fromMHz, toMHz }: ChannelMove): number {
  if (fromMHz === toMHz) return 0;
  const { radio } = endOf(world, radioId);
  if (!askedByRules(world, radioId, toMHz).limit.flags.includes("DFS")) return 0;
  const half = radio.widthMHz / 2;
  const [low, high] = WEATHER_RADARS_MHZ;
  return toMHz + half > low && toMHz - half < high ? WEATHER_RADAR_WAIT_S : RADAR_WAIT_S;
}
