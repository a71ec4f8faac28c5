import { data } from "react-router";
import { backhaulOf } from "#core/capacity";
import { groupRadios, powerChangeText, runGroups, type RunMove } from "#core/channels";
import type { World } from "#core/plan";
import { groupName } from "#core/propose";
import { fileName } from "../requests/fileName";
import { requirePlan } from "../requests/plan.server";
import { printed } from "../print/press.server";
import type { Route } from "./+types/watchRun";

const MOST_MOVES = 500;
const MOST_POWERS = 2000;

/** Pairs of an address, NAME:FIGURE with commas between. */
const pairsOf = (text: string | null): [name: string, figure: string][] =>
  (text ?? "")
    .split(",")
    .filter(Boolean)
    .map((one) => [one.slice(0, one.lastIndexOf(":")), one.slice(one.lastIndexOf(":") + 1)]);

/**
 * The sheet of a run, for the groups that the address names in `moves` as RADIO:MHZ with commas between (the channel that it has, where
 * only powers change), and in `powers` as RADIO:DBM.
 */
export async function loader({ params: { planId }, url }: Route.LoaderArgs) {
  const { context, world, revision } = await requirePlan(planId);
  const asked = pairsOf(url.searchParams.get("moves"));
  const powers = pairsOf(url.searchParams.get("powers"));
  if (asked.length === 0 || asked.length > MOST_MOVES)
    throw data(`moves names 1 to ${MOST_MOVES} radios with their new channel, such as sector-1:5660.`, { status: 400 });
  if (powers.length > MOST_POWERS)
    throw data(`powers names ${powers.length} radios, at most ${MOST_POWERS} go on one sheet.`, { status: 400 });
  const toDbm = new Map(
    powers.map(([radioId, text]) => {
      const dbm = Number(text);
      if (!(text !== "" && dbm >= -40 && dbm <= 60))
        throw data(`${radioId}: ${text} is no power from -40 to 60 dBm.`, { status: 400 });
      return [radioOf(world, radioId).id, dbm];
    }),
  );
  const moves = asked.map(([radioId, text]): RunMove => {
    const toMHz = Number(text);
    const radio = radioOf(world, radioId);
    if (!(toMHz >= 100 && toMHz <= 120_000)) throw data(`${radioId}: ${text} is no channel in MHz.`, { status: 400 });
    return {
      ...{ radioId, name: groupName(world, radioId), fromMHz: radio.frequencyMHz, toMHz },
      powers: groupRadios(world, radioId).flatMap((id) => {
        const dbm = toDbm.get(id);
        return dbm === undefined ? [] : [{ radioId: id, fromDbm: radioOf(world, id).txPowerDbm, toDbm: dbm }];
      }),
    };
  });
  const groups = runGroups(world, moves, backhaulOf(world, await context.ask("summaries")));
  const places = groups.flatMap(({ leaderId, followerIds }) =>
    [leaderId, ...followerIds].map((id): [string, string] => [id, placeOf(world, id)]),
  );
  const pdf = await printed("run", {
    ...{ planName: world.plan.name, groups, revision, places: Object.fromEntries(places) },
    powerTexts: Object.fromEntries(
      groups.flatMap(({ powers: changes }) =>
        Object.entries(changes).map(([id, change]) => [id, powerChangeText(world, id, change)]),
      ),
    ),
  });
  return new Response(pdf, {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `attachment; filename="${fileName(`Channel run ${world.plan.name}`)}.pdf"`,
    },
  });
}

function radioOf({ radios }: World, radioId: string) {
  const radio = radios.get(radioId);
  if (!radio) throw data(`There is no radio "${radioId}".`, { status: 404 });
  return radio;
}

/** A radio with where it stands and how it is reached. */
function placeOf({ radios, subscribers, sites }: World, radioId: string): string {
  const radio = radios.get(radioId)!;
  const at = subscribers.get(radio.subscriberId ?? "")?.name ?? sites.get(radio.siteId ?? "")?.name ?? "";
  return `${radio.name} at ${at}${radio.address === "" ? "" : `, ${radio.address}`}`;
}
