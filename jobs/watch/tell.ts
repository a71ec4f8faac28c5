import { linkName, type Alarm, type World } from "#core/plan";
import { CAUSES, type CauseKind, type WatchSettings } from "#core/watch";
import { counted } from "#core/words";
import { putReceived, readWatch, type Store } from "#store";
import { createTransport } from "nodemailer";

/** How long somebody who is told may take, ms. */
const PATIENCE_MS = 10_000;
/** Alarms that are remembered as told; older ones are long closed. */
const MOST_TOLD = 500;

/** Who was told of what, and what went wrong with it. */
export interface Told {
  at: string;
  alarmIds: string[];
  problem: string;
}

/** Whether an hour of the day lies in the quiet ones; they may go over midnight. */
export function isQuiet({ quietHours }: Pick<WatchSettings, "quietHours">, hour: number): boolean {
  if (!quietHours || quietHours.from === quietHours.to) return false;
  const { from, to } = quietHours;
  return from < to ? hour >= from && hour < to : hour >= from || hour < to;
}

/** An alarm as people read it. */
export function alarmText(world: World, { linkId, linkIds, radioId, what, sinceDay, causes: [lead] }: Alarm): string {
  const root = radioId === null ? undefined : world.radios.get(radioId);
  const where = root ? `${root.name} (${counted(linkIds.length, "link")})` : linkName(world, linkId);
  const cause = lead && CAUSES[lead.cause as CauseKind];
  const why = cause ? `\n  ${Math.round(lead.odds * 100)} %: ${cause.title}. ${cause.check}` : "";
  return `${where}: since ${sinceDay} ${what}.${why}`;
}

/** Tells of every open alarm that nobody was told of yet, outside quiet hours; those within them are told by the next look after. */
export async function tellOfAlarms(
  store: Store,
  planId: string,
  world: World,
  settings: WatchSettings,
  now = new Date(),
  mailServer = process.env.TEJADO_SMTP_URL ?? "",
): Promise<void> {
  const isAnybody = settings.emails.length > 0 || settings.webhook !== "";
  if (!isAnybody || isQuiet(settings, now.getUTCHours())) return;
  const { received } = await readWatch(store.db, planId);
  const told = new Set((received.told as Told | undefined)?.alarmIds ?? []);
  const news = [...world.alarms.values()].filter(({ id, state }) => state === "open" && !told.has(id));
  if (news.length === 0) return;
  const problems: string[] = [];
  const title = `${world.plan.name}: ${counted(news.length, "alarm")}`;
  if (settings.emails.length > 0) {
    if (mailServer === "") problems.push("no mail server is set: start Tejado with TEJADO_SMTP_URL");
    else
      try {
        await createTransport({
          url: mailServer,
          connectionTimeout: PATIENCE_MS,
          socketTimeout: PATIENCE_MS,
        } as never).sendMail({
          from: process.env.TEJADO_MAIL_FROM ?? "tejado@localhost",
          to: settings.emails,
          subject: title,
          text: news.map((alarm) => alarmText(world, alarm)).join("\n\n"),
        });
      } catch {
        problems.push("the mail server did not take it");
      }
  }
  if (settings.webhook !== "")
    try {
      const response = await fetch(settings.webhook, {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({
          plan: world.plan.name,
          alarms: news.map((alarm) => ({ ...alarm, planId: undefined, text: alarmText(world, alarm) })),
        }),
        redirect: "error",
        signal: AbortSignal.timeout(PATIENCE_MS),
      });
      if (!response.ok) problems.push(`the webhook answered ${response.status}`);
    } catch {
      problems.push("the webhook did not answer");
    }
  // What found nobody is told again with the next look.
  const ids = problems.length > 0 ? [...told] : [...told, ...news.map(({ id }) => id)].slice(-MOST_TOLD);
  await putReceived(store.db, planId, {
    told: { at: now.toISOString(), alarmIds: ids, problem: problems.join("; ") } satisfies Told,
  });
}
