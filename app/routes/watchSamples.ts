import { readSamples, SamplesError } from "#formats/samples";
import { watchSettings } from "#jobs";
import { findToken } from "#store";
import { data } from "react-router";
import { getStore } from "../data/store.server";
import { tokenHash } from "../watch/act.server";
import { takeSamples } from "../watch/receive.server";
import type { Route } from "./+types/watchSamples";

/** Takes samples from whoever shows the plan's token: JSON, or CSV where its type says so. What is answered as kept is on the disk. */
export async function action({ params: { planId }, request }: Route.ActionArgs) {
  const token = /^Bearer ([\w-]{20,100})$/.exec(request.headers.get("authorization") ?? "")?.[1];
  const store = await getStore();
  const isKnown = token !== undefined && (await findToken(store.db, planId, tokenHash(token)));
  // A plan that is not there answers like one whose token is another.
  if (!isKnown) throw data("This takes samples from whoever shows the plan's token.", { status: 401 });
  if ((await watchSettings(store, planId)).source !== "devices")
    throw data("Nothing is taken while the network is simulated.", { status: 409 });
  try {
    const isCsv = (request.headers.get("content-type") ?? "").startsWith("text/csv");
    const samples = readSamples(new Uint8Array(await request.arrayBuffer()), isCsv);
    return Response.json(await takeSamples(store, planId, samples, "pushed"), {
      headers: { "Cache-Control": "no-store" },
    });
  } catch (error) {
    if (error instanceof SamplesError) return new Response(`Nothing was kept: ${error.told}`, { status: 400 });
    throw error;
  }
}
