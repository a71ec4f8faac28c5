import { OWN_RULES, RULE_SETS } from "../regulation";
import { counted } from "../words";
import { declared, pointedAt, REFERENCES, type ReferenceField } from "./facts";
import { ROW_KINDS, type Equipment, type Radio, type RowKind } from "./kinds";
import type { Patch } from "./patch";
import { radiosTouched } from "./tuning";
import { rowIn, rowsOfKind, withPatches, type World } from "./world";

/** Something a change asks for that cannot be built or does not exist. */
export interface PatchProblem {
  kind: RowKind;
  id: string;
  field: string;
  message: string;
  /** Whether the change names something that is not in the plan, rather than something that cannot be built. */
  isUnknown: boolean;
}

type Add = (kind: RowKind, id: string, field: string, message: string, isUnknown?: boolean) => void;

/** What stands against a radio whose place, kit and channel are there: heights and settings that its kit does not have. */
function checkRadio(world: World, radio: Radio, add: Add): void {
  const on = (field: string, message: string) => add("radios", radio.id, field, `${radio.name}: ${message}`);
  const site = world.sites.get(radio.siteId ?? "");
  const subscriber = world.subscribers.get(radio.subscriberId ?? "");
  if ((radio.siteId === null) === (radio.subscriberId === null))
    return on("siteId", "a radio stands at one site or at one subscriber");
  const model = world.radioModels.get(radio.radioModelId);
  const antenna = world.antennaModels.get(radio.antennaModelId);
  if (!model || !antenna || !world.carriers.has(radio.carrierId) || !(site ?? subscriber)) return;
  const [maxHeightM, placeName] = site
    ? [site.structureHeightM, site.name]
    : [subscriber!.maxHeightM, subscriber!.name];
  if (radio.heightM > maxHeightM)
    on("heightM", `${radio.heightM} m is above the ${maxHeightM} m that ${placeName} offers`);
  for (const [what, [low, high]] of [
    ["radio", model.bandMHz],
    ["antenna", antenna.bandMHz],
  ] as const)
    if (radio.frequencyMHz < low || radio.frequencyMHz > high)
      on("frequencyMHz", `${radio.frequencyMHz} MHz is outside the ${what}'s ${low}–${high} MHz`);
  if (radio.txPowerDbm < model.powerMinDbm || radio.txPowerDbm > model.powerMaxDbm)
    on("txPowerDbm", `${radio.txPowerDbm} dBm is outside the radio's ${model.powerMinDbm} to ${model.powerMaxDbm} dBm`);
  if (!model.widthsMHz.includes(radio.widthMHz))
    on("widthMHz", `${radio.widthMHz} MHz is not one of the radio's widths (${model.widthsMHz.join(", ")} MHz)`);
}

/** The radios that a change can have put in the wrong: those it names, and those that stand on a place, model or carrier it names. */
function radiosConcerned(before: World, after: World, patches: readonly Patch[]): Radio[] {
  const named = radiosTouched([before, after], patches);
  const touched = new Set(patches.map(({ kind, id }) => `${kind} ${id}`));
  const stands = (radio: Radio) =>
    REFERENCES.radios.some((reference) => {
      const { kind, ids } = pointedAt(reference, radio);
      return ids.some((id) => touched.has(`${kind} ${id}`));
    });
  return [...after.radios.values()].filter((radio) => named.has(radio.id) || stands(radio));
}

/** Returns the name of a row as people know it; its id where it has none. */
function calledIn(worlds: readonly World[], kind: RowKind, id: string): string {
  // A channel is named after the radio that it belongs to.
  if (kind === "carriers") return calledIn(worlds, "radios", id);
  for (const world of worlds) {
    const row = rowIn(world, kind, id) as { name?: string; body?: { name?: string; model?: string } } | null;
    const name = row?.name ?? row?.body?.model ?? row?.body?.name;
    if (name) return name;
  }
  return id;
}

/** Whether a row that is pointed at is there, and is what the field asks for. */
function isThere(world: World, { facts }: ReferenceField, kind: RowKind, id: string): boolean {
  const row = rowIn(world, kind, id);
  if (!row || facts.sheet === undefined) return row !== null;
  const { kind: sheet, body } = row as Equipment;
  return sheet === facts.sheet && (facts.part === undefined || ("kind" in body && body.kind === facts.part));
}

/** What a change makes point at rows that are not there, and what would be left pointing at rows that it takes out. */
function checkReferences(before: World, after: World, patches: readonly Patch[], add: Add): void {
  const worlds = [before, after];
  const touched = new Set(patches.map(({ kind, id }) => `${kind} ${id}`));
  const gone = new Set(
    patches.flatMap(({ kind, id, remove }) => (remove && !rowIn(after, kind, id) ? [`${kind} ${id}`] : [])),
  );
  /** Of each row that goes, the rows that are left pointing at it. */
  const left = new Map<string, { kind: RowKind; id: string; users: Map<RowKind, Set<string>> }>();
  for (const kind of ROW_KINDS)
    for (const reference of REFERENCES[kind])
      for (const row of rowsOfKind(after, kind)) {
        const to = pointedAt(reference, row);
        for (const id of to.ids) {
          const key = `${to.kind} ${id}`;
          if (!touched.has(`${kind} ${row.id}`) && !touched.has(key)) continue;
          if (isThere(after, reference, to.kind, id)) continue;
          if (gone.has(key)) {
            const one = left.get(key) ?? { kind: to.kind, id, users: new Map<RowKind, Set<string>>() };
            left.set(key, one);
            const users = one.users.get(kind) ?? new Set<string>();
            one.users.set(kind, users.add(calledIn(worlds, kind, row.id)));
          } else add(kind, row.id, reference.name, missing(worlds, reference, kind, row.id, to.kind, id), true);
        }
      }
  for (const { kind, id, users } of left.values())
    for (const [user, names] of users) {
      const { one, many } = declared(user);
      const [first] = names;
      const which = names.size === 1 ? "" : ", first";
      add(
        kind,
        id,
        "id",
        `${calledIn(worlds, kind, id)} is in use by ${counted(names.size, one, many)}${which}: ${first}`,
      );
    }
}

/** "Sector north: there is no bracket “x” in the library." */
function missing(
  worlds: readonly World[],
  { facts }: ReferenceField,
  kind: RowKind,
  id: string,
  toKind: RowKind,
  toId: string,
): string {
  const what = facts.part ?? facts.sheet ?? declared(toKind).one;
  const owner = calledIn(worlds, kind, id);
  const named = owner === id ? `this ${declared(kind).one}` : owner;
  return `${named}: there is no ${what} "${calledIn(worlds, toKind, toId)}" in the ${facts.sheet ? "library" : "plan"}`;
}

function problemsOf(before: World, after: World, patches: readonly Patch[]): PatchProblem[] {
  const problems: PatchProblem[] = [];
  const add: Add = (kind, id, field, message, isUnknown = false) =>
    problems.push({ kind, id, field, message, isUnknown });
  const { ruleSetId, id } = after.plan;
  if (ruleSetId !== OWN_RULES && !RULE_SETS.some((set) => set.id === ruleSetId))
    add("plans", id, "ruleSetId", `there is no rule set "${ruleSetId}"`, true);
  checkReferences(before, after, patches, add);
  for (const radio of radiosConcerned(before, after, patches)) checkRadio(after, radio, add);
  return problems;
}

/**
 * What stands against keeping `patches`, looked for in everything that they touch: heights above a structure, also where the
 * structure shrinks under its radios; settings outside the kit's limits; whatever would stand on something that is not there.
 * What was wrong before in the same words does not stand against another change. `world` must hold all that stands on a
 * touched thing and all that it stands on; the rest may be missing.
 */
export function checkPatches(world: World, patches: readonly Patch[]): PatchProblem[] {
  const key = ({ kind, id, field, message }: PatchProblem) => `${kind} ${id} ${field} ${message}`;
  const known = new Set(problemsOf(world, world, patches).map(key));
  return problemsOf(world, withPatches(world, patches), patches).filter((problem) => !known.has(key(problem)));
}
