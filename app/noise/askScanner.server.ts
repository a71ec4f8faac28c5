import { lookup } from "node:dns/promises";
import ipaddr from "ipaddr.js";
import { z } from "zod";

const answerSchema = z.object({
  binKHz: z.number(),
  frequenciesMHz: z.array(z.number()).max(200_000),
  levelsDbm: z.array(z.number()).max(200_000),
});

/** A scanner answers within this time, and with no more bytes than that. */
const LONGEST_MS = 20_000;
const MOST_BYTES = 8 * 2 ** 20;

/** A scanner that cannot be asked, or answered something else, in words of ours. */
export class ScannerFailed extends Error {}

/** The address of this machine that a host name leads to. Throws where any that it leads to is another machine's. */
async function ownAddress(hostname: string): Promise<string> {
  const found = await lookup(hostname.replace(/^\[|\]$/g, ""), { all: true }).catch(() => []);
  const own = found.filter(({ address }) => ipaddr.process(address).range() === "loopback");
  if (own.length === 0 || own.length < found.length)
    throw new ScannerFailed(`${hostname} is not this machine; scanners are asked on loopback only`);
  return own[0]!.family === 6 ? `[${own[0]!.address}]` : own[0]!.address;
}

/** The body of an answer as text, as long as it is within bounds. */
async function boundedText(response: Response): Promise<string> {
  const decoder = new TextDecoder();
  let [text, bytes] = ["", 0];
  for await (const chunk of response.body ?? []) {
    bytes += chunk.length;
    if (bytes > MOST_BYTES) throw new ScannerFailed(`the scanner answers more than ${MOST_BYTES} bytes`);
    text += decoder.decode(chunk, { stream: true });
  }
  return text;
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    throw new ScannerFailed("the scanner’s answer is no JSON");
  }
}

/** Asks a scanner on this machine for one scan. Throws ScannerFailed when it answers anything else, or not at all; what it says of itself is not told on. */
export async function askScanner(url: string, query: Record<string, string>): Promise<z.infer<typeof answerSchema>> {
  if (!URL.canParse(url)) throw new ScannerFailed("the scanner’s address is none");
  const asked = new URL("/scan", url);
  if (asked.protocol !== "http:") throw new ScannerFailed("the scanner’s address must begin with http://");
  asked.hostname = await ownAddress(asked.hostname);
  for (const [name, value] of Object.entries(query)) asked.searchParams.set(name, value);
  const options = { signal: AbortSignal.timeout(LONGEST_MS), redirect: "error" } as const;
  const response = await fetch(asked, options).catch(() => {
    throw new ScannerFailed("the scanner does not answer, or sends elsewhere");
  });
  if (!response.ok) throw new ScannerFailed(`the scanner refused: it answered ${response.status}`);
  const text = await boundedText(response).catch((error: unknown) => {
    throw error instanceof ScannerFailed ? error : new ScannerFailed("the scanner broke off its answer");
  });
  const parsed = answerSchema.safeParse(jsonOf(text));
  if (!parsed.success)
    throw new ScannerFailed("the scanner’s answer is no scan: it lacks binKHz, frequenciesMHz or levelsDbm");
  return parsed.data;
}
