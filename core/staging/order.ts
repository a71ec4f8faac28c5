import { addressFaults, parsedAddress, parsedSubnet, type Taken } from "../addressing";
import type { World } from "../plan";
import { leaders } from "./sheet";

/** Devices that are on the bench together: the access point or near end stays, its clients or its far end come one after another. */
interface StagingGroup {
  leaderId: string;
  followerIds: string[];
}

/**
 * All radios of a plan in the order in which they are staged: whoever keeps a channel before those who follow it, so that each follower
 * can be brought to its version and tried against it. With `radioIds` only these are followed through, with the leaders that they need.
 */
export function stagingGroups(world: World, radioIds?: ReadonlySet<string>): StagingGroup[] {
  const leaderOf = leaders(world);
  const groups = new Map<string, string[]>();
  for (const { id } of world.radios.values()) {
    const leader = leaderOf.get(id) ?? id;
    if (radioIds && !radioIds.has(id)) continue;
    const followers = groups.get(leader) ?? [];
    if (leader !== id) followers.push(id);
    groups.set(leader, followers);
  }
  return [...groups].map(([leaderId, followerIds]) => ({ leaderId, followerIds }));
}

/** What the plan still has to say before a radio can be set up, by radio; those that are ready are not in it. */
export function stagingProblems(world: World): Map<string, string> {
  const problems = new Map<string, string>();
  for (const radio of world.radios.values())
    if (radio.address === "") problems.set(radio.id, "the plan gives it no address yet");
  for (const { radioId, what } of addressFaults(world)) problems.set(radioId, what);
  return problems;
}

/**
 * An address for the laptop beside a device's, in the same network and nobody else's: the highest free one, because
 * networks are filled from below. Null if the text is not an address with a prefix, or if every other address is taken.
 */
export function laptopAddress(deviceAddress: string, taken: Taken = new Set()): string | null {
  const network = parsedSubnet(deviceAddress);
  const device = parsedAddress(deviceAddress.split("/")[0]!);
  if (!network || !device) return null;
  const bytes = device.toByteArray();
  const hostBits = BigInt(bytes.length * 8 - network.length);
  const span = 1n << hostBits;
  const number = bytes.reduce((sum, byte) => (sum << 8n) | BigInt(byte), 0n);
  const base = number - (number % span);
  // The first and last of a network are nobody's, but for the two of a /31 and /127.
  const edge = hostBits <= 1n ? 0n : 1n;
  for (let host = span - 1n - edge; host >= edge; host--) {
    const text = addressOf(base + host, bytes.length);
    if (text !== device.toString() && !taken.has(text)) return `${text}/${network.length}`;
  }
  return null;
}

/** A number as the address of so many bytes. */
function addressOf(number: bigint, length: number): string {
  const parts = Array.from({ length: length === 4 ? 4 : 8 }, (_, i, bits = length === 4 ? 8n : 16n) =>
    Number((number >> (bits * BigInt((length === 4 ? 3 : 7) - i))) & ((1n << bits) - 1n)),
  );
  return parsedAddress(length === 4 ? parts.join(".") : parts.map((part) => part.toString(16)).join(":"))!.toString();
}
