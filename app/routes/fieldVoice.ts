import { audioType } from "#formats/audio";
import { readVoice } from "#store";
import { data } from "react-router";
import { pictureCaching } from "../access/pictureCaching.server";
import { jobsSeen, requireSeen } from "../access/ownJobs.server";
import { requirePlan } from "../requests/plan.server";
import type { Route } from "./+types/fieldVoice";

/** What a crew spoke, to be listened to. */
export async function loader({ params: { planId, noteId } }: Route.LoaderArgs) {
  const { store, world } = await requirePlan(planId);
  const voice = await readVoice(store.db, planId, noteId);
  if (!voice) throw data("There is no such recording.", { status: 404 });
  const visit = world.visits.get(voice.visitId);
  const sees = await jobsSeen(store, world);
  requireSeen(visit ? sees.job(visit) : sees.all);
  return new Response(new Uint8Array(voice.bytes), {
    headers: { "Content-Type": audioType(voice.bytes), "Cache-Control": pictureCaching() },
  });
}
