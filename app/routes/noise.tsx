import { randomUUID } from "node:crypto";
import { putPatch, scanSchema } from "#core/plan";
import { startScanner } from "#simulators";
import { parseWithZod } from "@conform-to/zod/v4";
import { data } from "react-router";
import { requirePlan } from "../requests/plan.server";
import { authorOf } from "../access/author.server";
import { keepOwn } from "../keep/keep.server";
import { z } from "zod";
import { askScanner, ScannerFailed } from "../noise/askScanner.server";
import { NoisePage } from "../noise/NoisePage";
import { scannerAskSchema } from "../noise/scannerAsk";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/noise";

export async function loader({ params }: Route.LoaderArgs) {
  const { context, rows, world, revision } = await requirePlan(params.planId);
  const { plan, sites, scans, outsiders } = rows;
  return {
    plan,
    revision,
    sites: sites.map(({ id, name }) => ({ id, name })),
    scans: [...scans].sort((x, y) => y.scannedAt.localeCompare(x.scannedAt)),
    channels: await context.ask("channelRows"),
    outsiders: [...outsiders].sort((x, y) => x.name.localeCompare(y.name)),
    antennas: [...world.antennaModels.values()].map(({ id, maker, model }) => ({ id, name: `${maker} ${model}` })),
  };
}

/** Has a scanner look along each heading on both polarizations, and keeps what it heard in one change. */
export async function action({ params, request }: Route.ActionArgs) {
  const { store, context, rows, world } = await requirePlan(params.planId);
  const submission = parseWithZod(await formOf(request), { schema: scannerAskSchema });
  if (submission.status !== "success") return data({ lastResult: submission.reply(), said: null }, { status: 400 });
  const refused = (fieldErrors: Record<string, string[]>) =>
    data({ lastResult: submission.reply({ fieldErrors }), said: null }, { status: 400 });
  const { siteId, headings, scannerUrl, standIn: isChosen, ...settings } = submission.value;
  const site = world.sites.get(siteId);
  if (!site) return refused({ siteId: ["is not in the plan"] });
  const { isDemo } = rows.plan;
  if (scannerUrl === "" && !isDemo && !isChosen)
    return refused({
      scannerUrl: [
        "is missing. Give a scanner’s, or choose the simulation: the stand-in hears nothing real, so it does not answer unasked.",
      ],
    });
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
    const said = { ok, message: ok ? `Kept ${rows.length} scans of ${site.name}.` : message };
    return data({ lastResult: null, said }, { status });
  } catch (error) {
    if (!(error instanceof ScannerFailed || error instanceof z.ZodError)) throw error;
    const why = error instanceof ScannerFailed ? error.message : "what the scanner answered is out of bounds";
    const said = { ok: false, message: `${why}. Nothing was kept.` };
    return data({ lastResult: null, said }, { status: 502 });
  } finally {
    await standIn?.stop();
  }
}

export default function Noise({ loaderData, actionData }: Route.ComponentProps) {
  return <NoisePage {...loaderData} result={actionData?.said ?? null} refused={actionData?.lastResult ?? null} />;
}
