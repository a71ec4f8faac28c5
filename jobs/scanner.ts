import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { inverseGeodesic } from "#core/geodesy";
import { peakGainDbi, patternLossDb } from "#core/antenna";
import { tiltDownDeg } from "#core/aiming";
import { endOf, type World } from "#core/plan";
import { deltaBullingtonLossDb, freeSpaceLossDb } from "#core/propagation";
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

/** The plan's transmitters on other masts, as they arrive at a site. The site's own links are silent while it listens. */
function ownEmitters({ world, profileBetween }: PlanContext, siteId: string): HeardEmitter[] {
  const site = world.sites.get(siteId)!;
  const silent = new Set<string>();
  for (const { aRadioId, bRadioId } of world.links.values()) {
    if (world.radios.get(aRadioId)?.siteId === siteId) silent.add(bRadioId);
    if (world.radios.get(bRadioId)?.siteId === siteId) silent.add(aRadioId);
  }
  const heard: HeardEmitter[] = [];
  for (const radio of world.radios.values()) {
    if (radio.siteId === siteId || silent.has(radio.id)) continue;
    const end = endOf(world, radio.id);
    const profile = profileBetween(end.place, site);
    if (profile.holes || profile.distanceM < 20) continue;
    const txAmslM = profile.groundAmslM[0]! + radio.heightM;
    const rxAmslM = profile.groundAmslM.at(-1)! + site.structureHeightM;
    const frequencyGHz = radio.frequencyMHz / 1000;
    const heights = profile.groundAmslM.map((ground, i) => ground + profile.coverHeightM[i]!);
    const diffraction = deltaBullingtonLossDb({
      distancesKm: profile.distancesKm,
      heightsM: heights,
      txAmslM,
      rxAmslM,
      frequencyGHz,
      kFactor: world.plan.kFactor,
      polarization: "V",
    });
    const tilt = tiltDownDeg(txAmslM, rxAmslM, profile.distanceM, world.plan.kFactor);
    const aim = aimOf(world, radio.id, profile.azimuthDeg, tilt);
    const off = patternLossDb(end.antenna, radio.polarization, aim.azimuthOffDeg, aim.elevationOffDeg);
    const eirp = radio.txPowerDbm - radio.cableLossDb + peakGainDbi(end.antenna, radio.frequencyMHz) - off;
    heard.push({
      frequencyMHz: radio.frequencyMHz,
      widthMHz: radio.widthMHz,
      bearingDeg: profile.backAzimuthDeg,
      isotropicDbm: eirp - freeSpaceLossDb({ distanceKm: profile.distanceM / 1000, frequencyGHz }) - diffraction,
      duty: radio.role === "subscriber" ? 0.1 : 0.6,
      polarization: radio.polarization === "H" || radio.polarization === "V" ? radio.polarization : "both",
    });
  }
  return heard;
}

/** How far a radio points past a bearing; one without a direction of its own looks at the other end of its link. */
function aimOf(world: World, radioId: string, bearingDeg: number, tiltDeg: number) {
  const end = endOf(world, radioId);
  let azimuthDeg = end.radio.azimuthDeg;
  if (azimuthDeg === null) {
    const link = [...world.links.values()].find(
      ({ aRadioId, bRadioId }) => aRadioId === radioId || bRadioId === radioId,
    );
    const otherId = link && (link.aRadioId === radioId ? link.bRadioId : link.aRadioId);
    azimuthDeg = otherId ? inverseGeodesic(end.place, endOf(world, otherId).place).azimuthDeg : 0;
  }
  const tiltDown = (end.radio.tiltDownDeg ?? 0) + end.antenna.electricalTiltDownDeg;
  return { azimuthOffDeg: bearingDeg - azimuthDeg, elevationOffDeg: tiltDown - tiltDeg };
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
export function answerScan(context: PlanContext, query: URLSearchParams): { status: number; body: unknown } {
  const asked = querySchema.safeParse(Object.fromEntries(query));
  if (!asked.success) {
    const { path, message } = asked.error.issues[0]!;
    return { status: 400, body: { error: `${path.join(".")}: ${message}` } };
  }
  const { site, heading, beamwidth, gain, polarization, from, to, bin, seed } = asked.data;
  if (!context.world.sites.has(site)) return { status: 404, body: { error: `site: no scanner stands at "${site}"` } };
  if (to <= from || ((to - from) * 1000) / bin > MOST_BINS)
    return {
      status: 400,
      body: { error: `from, to, bin: ${from} to ${to} MHz in bins of ${bin} kHz is none or over ${MOST_BINS} levels` },
    };
  const { frequenciesMHz, levelsDbm } = simulateScan(
    [
      ...ownEmitters(context, site),
      // Invented outsiders belong in a demo: they must never be taken for somebody's real neighbours.
      ...(context.rows.plan.isDemo ? outsiders(seed, from, to) : []),
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
  const server: Server = createServer((request, response) => {
    const url = new URL(request.url ?? "/", "http://127.0.0.1");
    const { status, body } =
      url.pathname === "/device"
        ? {
            status: 200,
            body: { device: "Tejado stand-in scanner", bandsMHz: [[100, 100_000]], polarizations: ["H", "V"] },
          }
        : url.pathname === "/scan"
          ? answerScan(context, url.searchParams)
          : { status: 404, body: { error: `there is no ${url.pathname} here` } };
    response.writeHead(status, { "Content-Type": "application/json" }).end(JSON.stringify(body));
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  return {
    url: `http://127.0.0.1:${port}`,
    stop: () => new Promise((resolve) => server.close(() => resolve())),
  };
}

const answerSchema = z.object({
  binKHz: z.number(),
  frequenciesMHz: z.array(z.number()),
  levelsDbm: z.array(z.number()),
});

/** Asks a scanner on loopback for one scan. Throws with what it answered when it is none. */
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
