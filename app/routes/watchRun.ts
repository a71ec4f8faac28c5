import { data } from "react-router";
import { backhaulOf } from "#core/capacity";
import { runGroups, type ChannelMove } from "#core/channels";
import type { World } from "#core/plan";
import { groupName } from "#core/propose";
import { fileName } from "../data/fileName";
import { requirePlan } from "../data/plan.server";
import { printed } from "../print/press.server";
import type { Route } from "./+types/watchRun";

const MOST_MOVES = 500;

/** The sheet of a channel run, for the moves that the address names as RADIO:MHZ with commas between. */
export async function loader({ params: { planId }, url }: Route.LoaderArgs) {
  const { context, world, revision } = await requirePlan(planId);
  const asked = (url.searchParams.get("moves") ?? "").split(",").filter(Boolean);
  if (asked.length === 0 || asked.length > MOST_MOVES)
    throw data(`moves names 1 to ${MOST_MOVES} radios with their new channel, such as sector-1:5660.`, { status: 400 });
  const moves = asked.map((one): ChannelMove => {
    const at = one.lastIndexOf(":");
    const [radioId, toMHz] = [one.slice(0, at), Number(one.slice(at + 1))];
    const radio = world.radios.get(radioId);
    if (!radio) throw data(`There is no radio "${radioId}".`, { status: 404 });
    if (!(toMHz >= 100 && toMHz <= 120_000))
      throw data(`${radioId}: ${one.slice(at + 1)} is no channel in MHz.`, { status: 400 });
    return { radioId, name: groupName(world, radioId), fromMHz: radio.frequencyMHz, toMHz };
  });
  const groups = runGroups(world, moves, backhaulOf(world, await context.ask("summaries")));
  const places = groups.flatMap(({ leaderId, followerIds }) =>
    [leaderId, ...followerIds].map((id): [string, string] => [id, placeOf(world, id)]),
  );
  const pdf = await printed("run", {
    ...{ planName: world.plan.name, groups, revision, places: Object.fromEntries(places) },
  });
  return new Response(pdf, {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `attachment; filename="${fileName(`Channel run ${world.plan.name}`)}.pdf"`,
    },
  });
}

/** A radio with where it stands and how it is reached. */
function placeOf({ radios, subscribers, sites }: World, radioId: string): string {
  const radio = radios.get(radioId)!;
  const at = subscribers.get(radio.subscriberId ?? "")?.name ?? sites.get(radio.siteId ?? "")?.name ?? "";
  return `${radio.name} at ${at}${radio.address === "" ? "" : `, ${radio.address}`}`;
}
