import { z } from "zod";

const answerSchema = z.object({
  binKHz: z.number(),
  frequenciesMHz: z.array(z.number()),
  levelsDbm: z.array(z.number()),
});

/** Asks a scanner on this machine for one scan. Throws in words when it answers anything else, or not at all. */
export async function askScanner(url: string, query: Record<string, string>): Promise<z.infer<typeof answerSchema>> {
  const asked = new URL("/scan", url);
  if (!["127.0.0.1", "localhost", "[::1]"].includes(asked.hostname))
    throw new Error(`${asked.hostname} is not this machine; scanners are asked on loopback only`);
  for (const [name, value] of Object.entries(query)) asked.searchParams.set(name, value);
  const response = await fetch(asked, { signal: AbortSignal.timeout(20_000) });
  const body: unknown = await response.json().catch(() => null);
  if (!response.ok)
    throw new Error((body as { error?: string } | null)?.error ?? `the scanner answered ${response.status}`);
  const parsed = answerSchema.safeParse(body);
  if (!parsed.success) throw new Error(`the scanner's answer is no scan: ${parsed.error.issues[0]!.message}`);
  return parsed.data;
}
