import { addressNumber, parsedAddress, parsedSubnet, type Address } from "./subnets";

/** Addresses that no radio may take: somebody else has them, or they are kept for something. */
interface Reserved {
  /** As it was written. */
  text: string;
  /** Whose they are; empty where nobody said. */
  whose: string;
  family: "ipv4" | "ipv6";
  /** The first and the last of them, as numbers. */
  first: bigint;
  last: bigint;
}

/** Most entries that are looked at: each is held against every radio. */
const MOST_RESERVED = 200;

/** Reads one line: an address, a range or a network, and then whose it is. Null for a line that begins with none of them. */
function reservedIn(line: string): Reserved | null {
  const [, from = "", to = "", rest = ""] = /^(\S+?)\s*-\s*(\S+)\s*(.*)$/.exec(line) ?? [];
  const ends = [parsedAddress(from), parsedAddress(to)];
  if (ends[0] && ends[1]) {
    const [first, last] = [addressNumber(ends[0]), addressNumber(ends[1])];
    const family = ends[0].kind();
    const isRange = first <= last && ends[1].kind() === family;
    return isRange ? { text: `${from} - ${to}`, whose: rest.trim(), family, first, last } : null;
  }
  const [text = "", ...words] = line.split(/\s+/);
  const whose = words.join(" ").replace(/^-\s*/, "");
  const network = parsedSubnet(text);
  const base = network?.base ?? parsedAddress(text);
  if (!base) return null;
  const family = base.kind();
  const size = 1n << BigInt((family === "ipv4" ? 32 : 128) - (network?.length ?? (family === "ipv4" ? 32 : 128)));
  const first = (addressNumber(base) / size) * size;
  return { text, whose, family, first, last: first + size - 1n };
}

/** The first entries of a plan's list, one a line; how many there are, and the first line that cannot be read. */
export function reservedOf(text: string): {
  reserved: Reserved[];
  entries: number;
  unread: { line: number; text: string } | null;
} {
  const reserved: Reserved[] = [];
  let unread: { line: number; text: string } | null = null;
  text.split("\n").forEach((raw, i) => {
    const line = raw.trim();
    if (line === "") return;
    const found = reservedIn(line);
    if (found) reserved.push(found);
    else unread ??= { line: i + 1, text: line };
  });
  return { reserved: reserved.slice(0, MOST_RESERVED), entries: reserved.length, unread };
}

/** The entry that holds an address; undefined where it is free. */
export function reservedBy(reserved: readonly Reserved[], address: Address): Reserved | undefined {
  if (reserved.length === 0) return undefined;
  const [family, number] = [address.kind(), addressNumber(address)];
  return reserved.find((one) => one.family === family && number >= one.first && number <= one.last);
}

/** What is wrong with such a list, in words; null where nothing is. */
export function reservedProblem(text: string): string | null {
  const { entries, unread } = reservedOf(text);
  if (unread)
    return `Line ${unread.line}, "${unread.text}", begins with no address: write 10.44.3.7, 10.44.3.1 - 10.44.3.9 or 10.44.9.0/24, and then whose it is.`;
  return entries > MOST_RESERVED
    ? `${entries} entries, of which the first ${MOST_RESERVED} are looked at: write neighbours as one range.`
    : null;
}
