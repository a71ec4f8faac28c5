import { randomUUID } from "node:crypto";
import { patchBetween, putPatch, setPatch, type Alarm, type Measurement, type Patch, type World } from "#core/plan";
import {
  DAY_MS,
  endSeries,
  PLAN_SERIES,
  radioSeries,
  rootAlarms,
  WEATHER_SERIES,
  type LinkAlarm,
  type LinkWatch,
  type RootAlarm,
  type WatchedLink,
  type WatchSettings,
} from "#core/watch";
import { readKnown, withWatchThread, type LinkToLook } from "#monitoring";
import { linkStates, newestMeasurements } from "#core/proof";
import { readHistory, recordChange, signedBy, type Store } from "#store";
import type { JobTools } from "../tools";
import { keepLook, type Look } from "./looks";

/** How far back is looked, days; links that are read at once; entries of the logbook that are held against what strayed. */
const LOOKED_DAYS = 370;
const LINKS_AT_ONCE = 20;
const MOST_ENTRIES = 400;
/** What strayed is told where it was raised no longer ago than this, or still stands, days. */
const TOLD_DAYS = 120;
/** Days at the beginning from which usual figures are learned, and some to spare. */
const LEARNED_DAYS = 30;

const dayOf = (text: string) => Math.floor(Date.parse(text.slice(0, 10)) / DAY_MS);
export const dayText = (day: number) => new Date(day * DAY_MS).toISOString().slice(0, 10);

/** Days on which the plan's own changes touched each link's radio, channel or power. */
export async function linkChanges(store: Store, planId: string, world: World): Promise<Map<string, number[]>> {
  const changed = new Map<string, number[]>();
  for (const { at, patches } of await readHistory(store.db, planId, { limit: MOST_ENTRIES }))
    for (const patch of patches)
      if ("set" in patch && (patch.kind === "radios" || patch.kind === "carriers"))
        addTo(changed, patch.id, [Math.floor(at.getTime() / DAY_MS)]);
  const days = new Map<string, number[]>();
  if (changed.size === 0) return days;
  for (const { id, aRadioId, bRadioId } of world.links.values())
    for (const radioId of [aRadioId, bRadioId])
      for (const touched of [radioId, world.radios.get(radioId)!.carrierId])
        addTo(days, id, changed.get(touched) ?? []);
  return days;
}

/** Puts days beside those that stand there already. */
function addTo(days: Map<string, number[]>, key: string, more: readonly number[]): void {
  if (more.length === 0) return;
  const known = days.get(key);
  if (known) known.push(...more);
  else days.set(key, [...more]);
}

/** Days of work on a link, and of a reading that proved it: from then on its usual figures are others. */
function workOn(world: World): Map<string, number[]> {
  const days = new Map<string, number[]>();
  for (const { linkId, state, day } of world.visits.values())
    if (state === "done" && day !== "") addTo(days, linkId, [dayOf(day) + 1]);
  for (const [linkId, { measuredAt }] of proofsOf(world)) addTo(days, linkId, [dayOf(measuredAt) + 1]);
  return days;
}

/** Looks through all series of a plan, keeps how each link does, and raises, mends and closes alarms. Gives those that are new. */
export async function lookAtPlan(
  store: Store,
  planId: string,
  world: World,
  watched: readonly WatchedLink[],
  settings: WatchSettings,
  op: string,
  nowMs: number,
  { progress, check, signal }: Pick<JobTools, "progress" | "check" | "signal">,
): Promise<Alarm[]> {
  const toDay = Math.floor(nowMs / DAY_MS) + 1;
  const fromDay = toDay - LOOKED_DAYS;
  const changes = await linkChanges(store, planId, world);
  const anew = workOn(world);
  const alarms: LinkAlarm[] = [];
  const links: LinkWatch[] = [];
  await withWatchThread(async (thread) => {
    const shared = await readKnown(store, planId, [WEATHER_SERIES, PLAN_SERIES], fromDay, toDay);
    for (let at = 0; at < watched.length; at += LINKS_AT_ONCE) {
      check();
      const part = watched.slice(at, at + LINKS_AT_ONCE);
      const radios = (one: WatchedLink) => {
        const { aRadioId, bRadioId } = world.links.get(one.linkId)!;
        return [radioSeries(aRadioId), radioSeries(bRadioId)] as const;
      };
      const ids = part.flatMap((one) => [endSeries(one.linkId, "a"), endSeries(one.linkId, "b"), ...radios(one)]);
      const known = await readKnown(store, planId, [...new Set(ids)], fromDay, toDay);
      const asked = part.map((link): LinkToLook => {
        const [radioA, radioB] = radios(link);
        return {
          ...{ link, a: known(endSeries(link.linkId, "a")), b: known(endSeries(link.linkId, "b")) },
          ...{ radioA: known(radioA), radioB: known(radioB) },
          ...{ changes: changes.get(link.linkId) ?? [], anew: anew.get(link.linkId) ?? [] },
        };
      });
      const looked = await thread.look({
        ...{ fromDay, toDay, links: asked },
        ...{ weather: shared(WEATHER_SERIES), asked: shared(PLAN_SERIES) },
      });
      alarms.push(...looked.alarms);
      links.push(...looked.summaries);
      progress(
        0.7 + (0.3 * (at + part.length)) / watched.length,
        `${at + part.length} of ${watched.length} links looked at`,
      );
    }
  }, signal);
  await keepLook(store, planId, { at: new Date(nowMs).toISOString(), fromDay, toDay, links });
  const spared = alarms.filter((alarm) => !isMaintained(settings, alarm));
  const offs = new Map(watched.map(({ linkId, offDeg }) => [linkId, offDeg]));
  return keepAlarms(store, planId, world, rootAlarms(world, spared, offs), { fromDay, toDay, links }, op);
}

/** Whether an alarm began on a day on which work was announced. */
const isMaintained = ({ maintenance }: WatchSettings, { linkId, sinceDay }: LinkAlarm) =>
  maintenance.some(
    (one) =>
      (one.linkId === null || one.linkId === linkId) && dayOf(one.fromDay) <= sinceDay && sinceDay <= dayOf(one.toDay),
  );

/** Writes alarms into the plan as one change of Tejado's own; gives those that were not there before. */
async function keepAlarms(
  store: Store,
  planId: string,
  world: World,
  found: readonly RootAlarm[],
  { fromDay, toDay, links }: Pick<Look, "fromDay" | "toDay" | "links">,
  op: string,
): Promise<Alarm[]> {
  const patches: Patch[] = [];
  const raised: Alarm[] = [];
  const met = new Set<string>();
  const proofs = proofsOf(world);
  for (const one of found) {
    const known = [...world.alarms.values()].find((alarm) => !met.has(alarm.id) && isSame(alarm, one));
    if (known) met.add(known.id);
    const told = rowOf(planId, one);
    if (!known) {
      if (one.raisedDay < toDay - TOLD_DAYS || (one.endedDay ?? toDay) < toDay - TOLD_DAYS) continue;
      raised.push(told);
      patches.push(putPatch("alarms", told));
      continue;
    }
    if (known.state === "closed") continue;
    const isOver = told.endedDay !== "" || provenAgain(proofs, known) !== null;
    const patch = patchBetween("alarms", known, {
      ...known,
      ...{ linkIds: told.linkIds, endedDay: told.endedDay, what: told.what, value: told.value, unit: told.unit },
      ...{ causes: told.causes },
      ...(isOver ? { endedDay: told.endedDay || dayText(toDay - 1) } : {}),
      ...(isOver ? { state: "closed" as const, closedWhy: endWords(proofs, told) } : {}),
    });
    if (patch) patches.push(patch);
  }
  const silentLinks = new Set(links.flatMap(({ linkId, lastDay }) => (lastDay === null ? [linkId] : [])));
  for (const alarm of world.alarms.values()) {
    if (met.has(alarm.id) || alarm.state === "closed") continue;
    // What was usual before it lies no longer within what is looked at: nothing can be said against it.
    const isTooOld = dayOf(alarm.sinceDay) < fromDay + LEARNED_DAYS;
    const isBegunAnew = silentLinks.has(alarm.linkId);
    if (isTooOld && !isBegunAnew && provenAgain(proofs, alarm) === null) continue;
    const closedWhy = isBegunAnew ? "its series began anew" : endWords(proofs, alarm);
    patches.push(setPatch("alarms", alarm.id, { state: "closed", endedDay: dayText(toDay - 1), closedWhy }));
  }
  if (patches.length > 0) {
    const what =
      raised.length > 0
        ? `The watch raised ${raised.length === 1 ? "an alarm" : `${raised.length} alarms`}`
        : "The watch looked again";
    await recordChange(store.db, { planId, ...signedBy("Tejado"), op, what, patches });
  }
  return raised.filter(({ state }) => state !== "closed");
}

/** Closes all alarms of a plan whose series are dropped: nothing can be said for or against them any more. */
export async function closeAlarms(store: Store, world: World, why: string): Promise<void> {
  const endedDay = dayText(Math.floor(Date.now() / DAY_MS));
  const patches = [...world.alarms.values()]
    .filter(({ state }) => state !== "closed")
    .map(({ id, raisedDay }) =>
      setPatch("alarms", id, {
        state: "closed",
        endedDay: endedDay < raisedDay ? raisedDay : endedDay,
        closedWhy: why,
      }),
    );
  if (patches.length === 0) return;
  const what = "The watch began anew";
  await recordChange(store.db, { planId: world.plan.id, ...signedBy("Tejado"), op: randomUUID(), what, patches });
}

/** An alarm stays the same one while what strayed does, though its first day may come to be told otherwise. */
const isSame = (alarm: Alarm, { linkId, linkIds, kind, sinceDay, raisedDay }: RootAlarm) =>
  (alarm.linkId === linkId || linkIds.includes(alarm.linkId)) &&
  (alarm.kind === kind || Math.abs(dayOf(alarm.sinceDay) - sinceDay) <= SAME_DAYS) &&
  Math.abs(dayOf(alarm.raisedDay) - raisedDay) <= SAME_DAYS;
const SAME_DAYS = 10;

/** The day on which a reading proved an alarm's link after it was raised, null where none did: whatever its figures were before, this is what it does now. */
function provenAgain(proofs: ReadonlyMap<string, Measurement>, { linkId, raisedDay }: Raised): string | null {
  const day = proofs.get(linkId)?.measuredAt.slice(0, 10) ?? "";
  return day >= raisedDay ? day : null;
}
type Raised = Pick<Alarm, "linkId" | "raisedDay">;

/** The newest readings of links that they prove. */
const proofsOf = (world: World): Map<string, Measurement> => {
  const states = linkStates(world);
  return new Map([...newestMeasurements(world)].filter(([linkId]) => states.get(linkId) === "proven"));
};

function endWords(proofs: ReadonlyMap<string, Measurement>, alarm: Raised): string {
  const day = provenAgain(proofs, alarm);
  return day === null ? "back to what is usual" : `proven anew on ${day}`;
}

function rowOf(planId: string, one: RootAlarm): Alarm {
  const isOver = one.endedDay !== null;
  return {
    id: `alarm-${one.kind}-${one.raisedDay}-${one.linkId}`.slice(0, 64),
    ...{ planId, linkId: one.linkId, linkIds: one.linkIds.slice(0, 2000), radioId: one.radioId, kind: one.kind },
    ...{
      sinceDay: dayText(one.sinceDay),
      raisedDay: dayText(one.raisedDay),
      endedDay: isOver ? dayText(one.endedDay!) : "",
    },
    ...{ what: one.what, value: round(one.size.value), unit: one.size.unit },
    causes: one.causes.map(({ cause, odds, because }) => ({ cause, odds: round(odds, 1000), because })),
    ...{
      state: isOver ? "closed" : "open",
      seenBy: "",
      closedWhy: isOver ? "back to what is usual" : "",
      visitId: null,
    },
  };
}
const round = (value: number, parts = 10) => Math.round(value * parts) / parts;
