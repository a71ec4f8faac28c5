import { OWN_RULES, RULE_SETS } from "../regulation";
import { counted } from "../words";
import { radiosTouched } from "./tuning";
import type { Patch } from "./patch";
import type { Radio, RowKind } from "./schema";
import { rowIn, withPatches, type World } from "./world";

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

/** What stands against a radio: a place, kit or carrier that is not there, heights and settings that its kit does not have. */
function checkRadio(world: World, radio: Radio, add: Add): void {
  const on = (field: string, message: string, isUnknown = false) =>
    add("radios", radio.id, field, `${radio.name}: ${message}`, isUnknown);
  const site = world.sites.get(radio.siteId ?? "");
  const subscriber = world.subscribers.get(radio.subscriberId ?? "");
  if ((radio.siteId === null) === (radio.subscriberId === null))
    return on("siteId", "a radio stands at one site or at one subscriber");
  if (radio.siteId !== null && !site) return on("siteId", `there is no site "${radio.siteId}" in the plan`, true);
  if (radio.subscriberId !== null && !subscriber)
    return on("subscriberId", `there is no subscriber "${radio.subscriberId}" in the plan`, true);
  const model = world.radioModels.get(radio.radioModelId);
  if (!model) return on("radioModelId", `there is no radio "${radio.radioModelId}" in the library`, true);
  const antenna = world.antennaModels.get(radio.antennaModelId);
  if (!antenna) return on("antennaModelId", `there is no antenna "${radio.antennaModelId}" in the library`, true);
  if (radio.bracketId !== null && world.parts.get(radio.bracketId)?.kind !== "bracket")
    return on("bracketId", `there is no bracket "${radio.bracketId}" in the library`, true);
  if (!world.carriers.has(radio.carrierId))
    return on("carrierId", `there is no carrier "${radio.carrierId}" in the plan`, true);
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
  return [...after.radios.values()].filter(
    (radio) =>
      named.has(radio.id) ||
      touched.has(`sites ${radio.siteId}`) ||
      touched.has(`subscribers ${radio.subscriberId}`) ||
      touched.has(`equipment ${radio.radioModelId}`) ||
      touched.has(`equipment ${radio.antennaModelId}`),
  );
}

/** What would be left standing on things that a change takes out, and what it makes stand on things that are not there. */
function checkReferences(before: World, after: World, patches: readonly Patch[], add: Add): void {
  const touched = new Set(patches.map(({ kind, id }) => `${kind} ${id}`));
  for (const { kind, id, remove } of patches) {
    const isThere = rowIn(after, "equipment", id) !== null;
    if (kind !== "equipment" || !remove || isThere) continue;
    const using = [...after.radios.values()].filter(
      ({ antennaModelId, radioModelId, bracketId }) => antennaModelId === id || radioModelId === id || bracketId === id,
    );
    const fed = [...after.sites.values()].find(({ switchPartId }) => switchPartId === id);
    if (fed) add("equipment", id, "id", `it is the switch of ${fed.name}`);
    const outsiders = [...after.outsiders.values()].filter(({ antennaModelId }) => antennaModelId === id);
    if (using.length === 0 && outsiders.length > 0)
      add("equipment", id, "id", `the outsider ${outsiders[0]!.name} is said to resemble it`);
    if (using.length === 0) continue;
    const model = before.radioModels.get(id) ?? before.antennaModels.get(id) ?? before.parts.get(id);
    add(
      "equipment",
      id,
      "id",
      `${model?.model ?? id} is in use by ${counted(using.length, "radio")}, ${using[0]!.name} first`,
    );
  }
  for (const link of after.links.values())
    for (const field of ["aRadioId", "bRadioId"] as const) {
      const id = link[field];
      if ((touched.has(`links ${link.id}`) || touched.has(`radios ${id}`)) && !after.radios.has(id))
        add(
          "links",
          link.id,
          field,
          `the link ends at radio ${before.radios.get(id)?.name ?? id}, which is not in the plan`,
          true,
        );
    }
  for (const one of after.measurements.values())
    if ((touched.has(`measurements ${one.id}`) || touched.has(`links ${one.linkId}`)) && !after.links.has(one.linkId))
      add("measurements", one.id, "linkId", `the reading is of link ${one.linkId}, which is not in the plan`, true);
  for (const one of after.scans.values())
    if ((touched.has(`scans ${one.id}`) || touched.has(`sites ${one.siteId}`)) && !after.sites.has(one.siteId))
      add(
        "scans",
        one.id,
        "siteId",
        `the noise scan stands at site ${before.sites.get(one.siteId)?.name ?? one.siteId}, which is not in the plan`,
        true,
      );
  for (const one of after.alarms.values())
    if ((touched.has(`alarms ${one.id}`) || touched.has(`links ${one.linkId}`)) && !after.links.has(one.linkId))
      add("alarms", one.id, "linkId", `the alarm is of link ${one.linkId}, which is not in the plan`, true);
  for (const one of after.visits.values()) {
    if ((touched.has(`visits ${one.id}`) || touched.has(`links ${one.linkId}`)) && !after.links.has(one.linkId))
      add("visits", one.id, "linkId", `the job is on link ${one.linkId}, which is not in the plan`, true);
    for (const field of ["crewAId", "crewBId"] as const) {
      const crewId = one[field];
      const concerned = touched.has(`visits ${one.id}`) || touched.has(`crews ${crewId}`);
      if (concerned && crewId !== null && !after.crews.has(crewId))
        add(
          "visits",
          one.id,
          field,
          `a job has the crew ${before.crews.get(crewId)?.name ?? crewId}, which is not in the plan`,
          true,
        );
    }
  }
  for (const { id, switchPartId } of after.sites.values())
    if (touched.has(`sites ${id}`) && switchPartId !== null && after.parts.get(switchPartId)?.kind !== "switch")
      add("sites", id, "switchPartId", `there is no switch "${switchPartId}" in the library`, true);
  for (const { id, antennaModelId } of after.outsiders.values())
    if (touched.has(`outsiders ${id}`) && antennaModelId !== null && !after.antennaModels.has(antennaModelId))
      add("outsiders", id, "antennaModelId", `the antenna ${antennaModelId} is not in the library`, true);
  for (const one of after.photos.values()) {
    const owners = one.ownerKind === "site" ? after.sites : after.subscribers;
    const owner = `${one.ownerKind}s ${one.ownerId}`;
    if ((touched.has(`photos ${one.id}`) || touched.has(owner)) && !owners.has(one.ownerId))
      add(
        "photos",
        one.id,
        "ownerId",
        `the photograph is of ${one.ownerKind} ${one.ownerId}, which is not in the plan`,
        true,
      );
  }
}

function problemsOf(before: World, after: World, patches: readonly Patch[]): PatchProblem[] {
  const problems: PatchProblem[] = [];
  const add: Add = (kind, id, field, message, isUnknown = false) =>
    problems.push({ kind, id, field, message, isUnknown });
  const { ruleSetId, id } = after.plan;
  if (ruleSetId !== OWN_RULES && !RULE_SETS.some((set) => set.id === ruleSetId))
    add("plans", id, "ruleSetId", `there is no rule set "${ruleSetId}"`, true);
  checkReferences(before, after, patches, add);
  // Kit that would go from under its radios has been named once already.
  const gone = new Set(patches.flatMap((patch) => (patch.kind === "equipment" && patch.remove ? [patch.id] : [])));
  for (const radio of radiosConcerned(before, after, patches))
    if (!gone.has(radio.radioModelId) && !gone.has(radio.antennaModelId)) checkRadio(after, radio, add);
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
