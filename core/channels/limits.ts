import { keepOneTime, type Timed } from "../link";
import { endOf, linksOn, type World } from "../plan";
import { capsFor, isLicensed, ruleUse, type Caps } from "../regulation";

/** What a channel plan keeps to, beyond what rules and kit allow at all. */
export interface ChannelLimits {
  /** Whether channels on which radar has to be avoided may be used. */
  allowsDfs: boolean;
  /** Whether channels may be used for which a licence or a registration is entered; others never. */
  allowsLicensed: boolean;
  /** How far channels of one mast are to stand from each other, edge to edge, MHz, unless they are timed together. */
  guardMHz: number;
}
export const NO_LIMITS: ChannelLimits = { allowsDfs: true, allowsLicensed: true, guardMHz: 0 };

/** What the rules ask of a group on a channel: of its near end, and of whatever else on it may send there. */
export function askedByRules(world: World, groupId: string, frequencyMHz: number): Caps {
  const end = endOf(world, groupId);
  return capsFor(world.plan, { ...end, radio: { ...end.radio, frequencyMHz } }, ruleUse(end.radio.role));
}

/** Whether rules and limits let a group stand on a channel. */
export function mayUse(world: World, groupId: string, frequencyMHz: number, limits: ChannelLimits): boolean {
  const { limit, closed } = askedByRules(world, groupId, frequencyMHz);
  if (closed !== null) return false;
  const { widthMHz } = world.radios.get(groupId)!;
  const isOpen =
    limit.licence === "exempt" || (limits.allowsLicensed && isLicensed(world.plan, limit, { frequencyMHz, widthMHz }));
  return isOpen && (limits.allowsDfs || !limit.flags.includes("DFS"));
}

/** Whether the rules forbid a group its channel of now, whatever the limits. */
export const isForbidden = (world: World, groupId: string): boolean =>
  askedByRules(world, groupId, world.radios.get(groupId)!.frequencyMHz).closed !== null;

/** Whether two groups have antennas on one mast that do not send together by their timing: those keep the guard. */
export function keepGuard(world: World, x: string, y: string): boolean {
  const [xs, ys] = [groupMounts(world, x), groupMounts(world, y)];
  return xs.some((one) => ys.some((other) => one.siteId === other.siteId && !keepOneTime(one, other)));
}

/** The antennas that a group has on sites, with their timing: a bridge has one at both of its ends. */
function groupMounts(world: World, groupId: string): (Timed & { siteId: string })[] {
  const near = world.radios.get(groupId)!;
  const { timingGroup } = near;
  const far = near.role === "bridge" ? world.radios.get(linksOn(world, groupId)[0]?.bRadioId ?? "") : undefined;
  return [
    ...(near.siteId === null ? [] : [{ siteId: near.siteId, timingGroup, isNear: true }]),
    ...(far && far.siteId !== null ? [{ siteId: far.siteId, timingGroup, isNear: false }] : []),
  ];
}

/** Sites on which a group has an antenna of its own. */
export const groupSites = (world: World, groupId: string): string[] =>
  groupMounts(world, groupId).map(({ siteId }) => siteId);
