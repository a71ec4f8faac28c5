import { emptyRows, planSchema, ROW_SCHEMAS, type Patch, type PlanRows, type RowKind } from "#core/plan";
import type { Queries } from "./db";
import { selectList } from "./rows";

type Ids = Iterable<string | null>;

/**
 * All that a change can put in the wrong: the rows it names, what stands on them and what they stand on, the plan itself
 * always. The rest of the plan stays where it is, so that a change costs what it touches.
 */
export async function neighbourhood(tx: Queries, planId: string, patches: readonly Patch[]): Promise<PlanRows> {
  const named = (kind: RowKind) => patches.flatMap((patch) => (patch.kind === kind ? [patch.id] : []));
  /** Ids that the patches' own rows point at, beside what is pointed at already. */
  const wanted = (field: string) =>
    patches.flatMap(({ set, put }) => {
      const value = ((set ?? put) as Record<string, unknown> | undefined)?.[field];
      return typeof value === "string" ? [value] : [];
    });
  const rows = async <K extends Exclude<RowKind, "plans">>(
    kind: K,
    where: string,
    ...ids: Ids[]
  ): Promise<PlanRows[K]> => {
    const lists = ids.map((list) => [...new Set(list)].filter((id) => id !== null));
    if (lists.every((list) => list.length === 0)) return [] as unknown as PlanRows[K];
    const { rows: found } = await tx.query(
      `SELECT ${selectList(kind)} FROM ${kind} WHERE plan_id = $1 AND (${where})`,
      [planId, ...lists],
    );
    return found.map((row) => ROW_SCHEMAS[kind].parse(row)) as PlanRows[K];
  };
  const { rows: plans } = await tx.query(`SELECT ${selectList("plans")} FROM plans WHERE id = $1`, [planId]);
  const near = emptyRows(planSchema.parse(plans[0]));

  near.measurements = await rows(
    "measurements",
    "id = ANY($2) OR link_id = ANY($3)",
    named("measurements"),
    named("links"),
  );
  near.scans = await rows("scans", "id = ANY($2) OR site_id = ANY($3)", named("scans"), named("sites"));
  near.outsiders = await rows(
    "outsiders",
    "id = ANY($2) OR antenna_model_id = ANY($3)",
    named("outsiders"),
    named("equipment"),
  );
  near.visits = await rows(
    "visits",
    "id = ANY($2) OR link_id = ANY($3) OR crew_a_id = ANY($4) OR crew_b_id = ANY($4)",
    named("visits"),
    named("links"),
    named("crews"),
  );
  near.crews = await rows("crews", "id = ANY($2)", [
    ...named("crews"),
    ...near.visits.flatMap(({ crewAId, crewBId }) => [crewAId, crewBId]),
    ...wanted("crewAId"),
    ...wanted("crewBId"),
  ]);
  near.alarms = await rows("alarms", "id = ANY($2) OR link_id = ANY($3)", named("alarms"), named("links"));
  near.photos = await rows("photos", "id = ANY($2) OR owner_id = ANY($3)", named("photos"), [
    ...named("sites"),
    ...named("subscribers"),
  ]);
  near.links = await rows(
    "links",
    "id = ANY($2) OR a_radio_id = ANY($3) OR b_radio_id = ANY($3)",
    [
      ...named("links"),
      ...near.measurements.map(({ linkId }) => linkId),
      ...near.visits.map(({ linkId }) => linkId),
      ...near.alarms.map(({ linkId }) => linkId),
      ...wanted("linkId"),
    ],
    named("radios"),
  );
  const ends = near.links.flatMap(({ aRadioId, bRadioId }) => [aRadioId, bRadioId]);
  near.radios = await rows(
    "radios",
    "id = ANY($2) OR site_id = ANY($3) OR subscriber_id = ANY($4) OR carrier_id = ANY($5) OR radio_model_id = ANY($6) OR antenna_model_id = ANY($6) OR bracket_id = ANY($6)",
    [...named("radios"), ...ends, ...wanted("aRadioId"), ...wanted("bRadioId")],
    named("sites"),
    named("subscribers"),
    named("carriers"),
    named("equipment"),
  );
  const of = (field: "siteId" | "subscriberId" | "carrierId" | "radioModelId" | "antennaModelId" | "bracketId") => [
    ...near.radios.map((radio) => radio[field]),
    ...wanted(field),
  ];
  near.sites = await rows(
    "sites",
    "id = ANY($2) OR switch_part_id = ANY($3)",
    [...named("sites"), ...of("siteId"), ...near.scans.map(({ siteId }) => siteId), ...wanted("ownerId")],
    named("equipment"),
  );
  near.subscribers = await rows("subscribers", "id = ANY($2)", [
    ...named("subscribers"),
    ...of("subscriberId"),
    ...wanted("ownerId"),
  ]);
  near.carriers = await rows("carriers", "id = ANY($2)", [...named("carriers"), ...of("carrierId")]);
  near.equipment = await rows("equipment", "id = ANY($2)", [
    ...named("equipment"),
    ...of("radioModelId"),
    ...of("antennaModelId"),
    ...of("bracketId"),
    ...near.sites.map(({ switchPartId }) => switchPartId),
    ...wanted("switchPartId"),
    ...near.outsiders.map(({ antennaModelId }) => antennaModelId),
  ]);
  for (const kind of ["layers", "areas", "overlays"] as const)
    Object.assign(near, { [kind]: await rows(kind, "id = ANY($2)", named(kind)) });
  return near;
}
