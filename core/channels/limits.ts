import { endOf, linksOn, type World } from "../plan";
import { capsFor, ruleUse, type Caps } from "../regulation";

/** What a channel plan keeps to, beyond what rules and kit allow at all. */
export interface ChannelLimits {
  /** Whether channels on which radar has to be avoided may be used. */
  allowsDfs: boolean;
  /** Whether channels that need a licence or a coordination system may be used. */
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
  const { flags, licence } = limit;
  return (limits.allowsDfs || !flags.includes("DFS")) && (limits.allowsLicensed || licence === "exempt");
}

/** Whether two groups have antennas on one mast without being timed together: those keep the guard. */
export function keepGuard(world: World, x: string, y: string): boolean {
  const [one, other] = [world.radios.get(x)!, world.radios.get(y)!];
  if (one.timingGroup !== "" && one.timingGroup === other.timingGroup) return false;
  const sites = groupSites(world, x);
  return groupSites(world, y).some((id) => sites.includes(id));
}

/** Sites on which a group has an antenna of its own: a bridge at both of its ends. */
export function groupSites(world: World, groupId: string): string[] {
  const near = world.radios.get(groupId)!;
  const far = near.role === "bridge" ? linksOn(world, groupId)[0]?.bRadioId : null;
  return [near.siteId, world.radios.get(far ?? "")?.siteId].flatMap((id) => id ?? []);
}
