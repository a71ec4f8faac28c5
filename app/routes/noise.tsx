import { randomUUID } from "node:crypto";
import { channelRows } from "#core/findings";
import { putPatch, scanSchema } from "#core/plan";
import { askScanner, startScanner } from "#jobs";
import { data } from "react-router";
import { z } from "zod";
import { requirePlan } from "../data/plan.server";
import { authorOf } from "../data/preferences";
import { keepOwn } from "../keep/keep.server";
import { NoisePage } from "../noise/NoisePage";
import type { Route } from "./+types/noise";

export async function loader({ params }: Route.LoaderArgs) {
  const { context } = await requirePlan(params.planId);
  const { plan, sites, scans } = context.rows;
  return {
    plan,
    revision: context.revision,
    sites: sites.map(({ id, name }) => ({ id, name })),
    scans: [...scans].sort((x, y) => y.scannedAt.localeCompare(x.scannedAt)),
    channels: channelRows(context.world, context.review.answers),
  };
}

const askSchema = z.object({
  siteId: z.string().min(1, "choose a site"),
  headings: z
    .string()
    .transform((text) =>
      text
        .split(/[\s,;]+/)
        .filter(Boolean)
        .map(Number),
    )
    .pipe(z.array(z.number("headings are numbers").min(0).max(360)).min(1, "name a heading").max(36)),
  beamwidthDeg: z.coerce.number().min(1).max(360),
  gainDbi: z.coerce.number().min(-10).max(60),
  fromMHz: z.coerce.number().min(100).max(100_000),
  toMHz: z.coerce.number().min(100).max(100_000),
  binKHz: z.coerce.number().min(10).max(100_000),
  scannerUrl: z.string().trim(),
  /** Ticked where the stand-in is wanted in a plan that is no demo. */
  standIn: z.string().optional(),
});

/** Has a scanner look along each heading on both polarizations, and keeps what it heard in one change. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, context } = await requirePlan(params.planId);
  const asked = askSchema.safeParse(Object.fromEntries(await request.formData()));
  if (!asked.success) {
    const { path, message } = asked.error.issues[0]!;
    return data({ ok: false, message: `${String(path[0])}: ${message}` }, { status: 400 });
  }
  const { siteId, headings, scannerUrl, standIn: isChosen, ...settings } = asked.data;
  const site = context.world.sites.get(siteId);
  if (!site) return data({ ok: false, message: `siteId: there is no site "${siteId}"` }, { status: 400 });
  const { isDemo } = context.rows.plan;
  if (scannerUrl === "" && !isDemo && !isChosen)
    return data(
      {
        ok: false,
        message:
          "scannerUrl: give the address of a scanner, or choose the simulation. The stand-in hears nothing real, so it does not answer unasked.",
      },
      { status: 400 },
    );
  const standIn = scannerUrl === "" ? await startScanner(context) : null;
  try {
    const scannedAt = new Date().toISOString();
    const rows = [];
    for (const headingDeg of headings)
      for (const polarization of ["H", "V"] as const) {
        const answer = await askScanner(standIn?.url ?? scannerUrl, {
          site: siteId,
          heading: String(headingDeg),
          beamwidth: String(settings.beamwidthDeg),
          gain: String(settings.gainDbi),
          polarization,
          from: String(settings.fromMHz),
          to: String(settings.toMHz),
          bin: String(settings.binKHz),
        });
        rows.push(
          scanSchema.parse({
            id: randomUUID(),
            planId: params.planId,
            siteId,
            headingDeg,
            beamwidthDeg: settings.beamwidthDeg,
            gainDbi: settings.gainDbi,
            polarization,
            scannedAt,
            source: standIn ? (isDemo ? "stand-in scanner" : "simulated: own transmitters only") : scannerUrl,
            binKHz: answer.binKHz,
            frequenciesMHz: answer.frequenciesMHz,
            levelsDbm: answer.levelsDbm,
          }),
        );
      }
    const { ok, message, status } = await keepOwn(store, params.planId, authorOf(request), {
      what: `Scanned at ${site.name}: ${rows.length} scans`,
      patches: rows.map((row) => putPatch("scans", row)),
    });
    return data({ ok, message: ok ? `Kept ${rows.length} scans of ${site.name}.` : message }, { status });
  } catch (error) {
    return data({ ok: false, message: `${(error as Error).message}. Nothing was kept.` }, { status: 502 });
  } finally {
    await standIn?.stop();
  }
}

export default function Noise({ loaderData, actionData }: Route.ComponentProps) {
  return <NoisePage {...loaderData} result={actionData ?? null} />;
}
