import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { simulateScan, type HeardEmitter } from "#core/spectrum";
import { z } from "zod";
import type { PlanContext } from "#engine";

/**
 * The stand-in for a scanner on a mast: a device of its own on loopback, asked over HTTP and answering JSON. It hears the
 * plan's own transmitters over the plan's own terrain and, in a demo alone, outsiders that it invents, the same for the same seed.
 *
 *   GET /device           what it is and what it can do
 *   GET /scan?site=…&heading=…&beamwidth=…&gain=…&polarization=H|V&from=MHz&to=MHz&bin=kHz&seed=…
 *                         {site, heading, …, frequenciesMHz: [...], levelsDbm: [...]}
 */
const querySchema = z.object({
  site: z.string().min(1),
  heading: z.coerce.number().min(0).max(360),
  beamwidth: z.coerce.number().min(1).max(360),
  gain: z.coerce.number().min(-10).max(60),
  polarization: z.enum(["H", "V"]),
  from: z.coerce.number().min(100).max(100_000),
  to: z.coerce.number().min(100).max(100_000),
  bin: z.coerce.number().min(10).max(100_000),
  seed: z.coerce.number().int().min(0).default(1),
});
const MOST_BINS = 20_000;
const OUTSIDERS = 14;

function seeded(seed: number): () => number {
  let state = (seed * 2654435761) >>> 0 || 1;
  return () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 4294967296;
  };
}

/** Transmitters of nobody in the plan: the same ones for a seed, heard from every site at much the same strength. */
function outsiders(seed: number, fromMHz: number, toMHz: number): HeardEmitter[] {
  const random = seeded(seed);
  return Array.from({ length: OUTSIDERS }, () => ({
    frequencyMHz: Math.round((fromMHz + random() * (toMHz - fromMHz)) / 5) * 5,
    widthMHz: [10, 20, 20, 40, 80][Math.floor(random() * 5)]!,
    bearingDeg: random() * 360,
    isotropicDbm: -112 + random() * 34,
    duty: 0.15 + random() * 0.8,
    polarization: (["H", "V", "both"] as const)[Math.floor(random() * 3)]!,
  }));
}

/** Answers one request of the stand-in: a status and what it says. */
export async function answerScan(
  context: PlanContext,
  query: URLSearchParams,
): Promise<{ status: number; body: unknown }> {
  const asked = querySchema.safeParse(Object.fromEntries(query));
  if (!asked.success) {
    const { path, message } = asked.error.issues[0]!;
    return { status: 400, body: { error: `${path.join(".")}: ${message}` } };
  }
  const { site, heading, beamwidth, gain, polarization, from, to, bin, seed } = asked.data;
  const { rows, world } = await context.load();
  if (!world.sites.has(site)) return { status: 404, body: { error: `site: no scanner stands at "${site}"` } };
  if (to <= from || ((to - from) * 1000) / bin > MOST_BINS)
    return {
      status: 400,
      body: { error: `from, to, bin: ${from} to ${to} MHz in bins of ${bin} kHz is none or over ${MOST_BINS} levels` },
    };
  const { frequenciesMHz, levelsDbm } = simulateScan(
    [
      ...(await context.ask("emitters", { siteId: site })),
      // Invented outsiders belong in a demo: they must never be taken for somebody's real neighbours.
      ...(rows.plan.isDemo ? outsiders(seed, from, to) : []),
    ],
    {
      headingDeg: heading,
      beamwidthDeg: beamwidth,
      gainDbi: gain,
      polarization,
      fromMHz: from,
      toMHz: to,
      binKHz: bin,
    },
    seeded(seed + Math.round(heading * 10) + (polarization === "H" ? 7 : 0)),
  );
  return {
    status: 200,
    body: { site, heading, beamwidth, gain, polarization, binKHz: bin, frequenciesMHz, levelsDbm },
  };
}

/** Starts the stand-in on a free port of loopback for the plan as it is. */
export async function startScanner(context: PlanContext): Promise<{ url: string; stop: () => Promise<void> }> {
  const answer = async (path: string): Promise<{ status: number; body: unknown }> => {
    const url = new URL(path, "http://127.0.0.1");
    return url.pathname === "/device"
      ? {
          status: 200,
          body: { device: "Tejado stand-in scanner", bandsMHz: [[100, 100_000]], polarizations: ["H", "V"] },
        }
      : url.pathname === "/scan"
        ? answerScan(context, url.searchParams)
        : { status: 404, body: { error: `there is no ${url.pathname} here` } };
  };
  const server: Server = createServer((request, response) => {
    const send = ({ status, body }: { status: number; body: unknown }) =>
      response.writeHead(status, { "Content-Type": "application/json" }).end(JSON.stringify(body));
    answer(request.url ?? "/").then(send, (error: unknown) =>
      send({ status: 500, body: { error: error instanceof Error ? error.message : String(error) } }),
    );
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  return {
    url: `http://127.0.0.1:${port}`,
    stop: () => new Promise((resolve) => server.close(() => resolve())),
  };
}
