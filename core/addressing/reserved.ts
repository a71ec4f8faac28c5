import { addressNumber, isInSubnet, parsedAddress, parsedSubnet, type Address } from "./subnets";

/** Addresses that no radio may take: somebody else has them, or they are kept for something. */
export interface Reserved {
  /** As it was written. */
  text: string;
  /** Whose they are; empty where nobody said. */
  whose: string;
  holds: (address: Address) => boolean;
}

/** Most entries that are kept. */
export const MOST_RESERVED = 200;

/** One line: an address, a range "first - last", or a network, then whose it is; null for what is none of these. */
function reservedIn(line: string): Reserved | null {
  const [, text = "", rest = ""] = /^(\S+(?:\s*-\s*\S+)?)\s*(.*)$/.exec(line) ?? [];
  const range = /^(\S+?)\s*-\s*(\S+)$/.exec(text);
  const ends = range && [parsedAddress(range[1]!), parsedAddress(range[2]!)];
  if (ends?.[0] && ends[1]) {
    const [first, last] = [addressNumber(ends[0]), addressNumber(ends[1])];
    const family = ends[0].kind();
    if (first > last || ends[1].kind() !== family) return null;
    const holds = (address: Address) => {
      const number = addressNumber(address);
      return address.kind() === family && number >= first && number <= last;
    };
    return { text, whose: rest.trim(), holds };
  }
  const [own = "", ...words] = line.split(/\s+/);
  const whose = words.join(" ").replace(/^-\s*/, "");
  const network = parsedSubnet(own);
  if (network) return { text: own, whose, holds: (address) => isInSubnet(address, network) };
  const single = parsedAddress(own);
  if (!single) return null;
  const number = addressNumber(single);
  return { text: own, whose, holds: (one) => one.kind() === single.kind() && addressNumber(one) === number };
}

/** The entries of a plan's list, one a line; lines that say nothing that could be read come back as they stand, by number. */
export function reservedOf(text: string): { reserved: Reserved[]; unread: { line: number; text: string }[] } {
  const reserved: Reserved[] = [];
  const unread: { line: number; text: string }[] = [];
  text.split("\n").forEach((raw, i) => {
    const line = raw.trim();
    if (line === "") return;
    const found = reservedIn(line);
    if (found) reserved.push(found);
    else unread.push({ line: i + 1, text: line });
  });
  return { reserved, unread };
}

/** What is wrong with such a list, in words; null where nothing is. */
export function reservedProblem(text: string): string | null {
  const { reserved, unread } = reservedOf(text);
  const [first] = unread;
  if (first)
    return `Line ${first.line}, "${first.text}", begins with no address: write 10.44.3.7, 10.44.3.1 - 10.44.3.9 or 10.44.9.0/24, and then whose it is.`;
  return reserved.length > MOST_RESERVED
    ? `${reserved.length} entries; at most ${MOST_RESERVED} are kept: write neighbours as one range.`
    : null;
}
