import { mendVisit } from "../crews";
import type { Alarm, Visit, World } from "../plan";
import { CAUSES, type CauseKind } from "./causes";

/** An alarm's most likely cause in words, with its odds, what speaks for it and what to look at first; empty without any. */
export function leadWords({ causes: [lead] }: Pick<Alarm, "causes">): string {
  const cause = lead && CAUSES[lead.cause as CauseKind];
  return cause ? `${cause.title} (${Math.round(lead.odds * 100)} %): ${lead.because}. ${cause.check}` : "";
}

/** A job to mend what an alarm was raised for; null where its link is gone. */
export function alarmVisit(world: World, alarm: Alarm, id: string): Visit | null {
  const link = world.links.get(alarm.linkId);
  return link ? mendVisit(world, link, id, leadWords(alarm) || alarm.what) : null;
}
