import {
  emptyRows,
  LIST_KINDS,
  planSchema,
  pointedAt,
  REFERENCES,
  ROW_SCHEMAS,
  type ListKind,
  type Patch,
  type PlanRows,
  type RowKind,
} from "#core/plan";
import type { Queries } from "./db";
import { selectList, toSnake } from "./rows";

/** Ids by the kind of their rows. */
class Ids {
  readonly #of = new Map<RowKind, Set<string>>();
  of(kind: RowKind): Set<string> {
    const known = this.#of.get(kind) ?? new Set<string>();
    this.#of.set(kind, known);
    return known;
  }
}

/** Adds what a row, or the fields of one that are set, points at. */
function addPointed(wanted: Ids, kind: RowKind, row: object): void {
  for (const reference of REFERENCES[kind]) {
    const value = (row as Record<string, unknown>)[reference.name];
    const ids = (Array.isArray(value) ? value : [value]).filter((id) => typeof id === "string");
    // Fields that are set by themselves need not say which kind they point at: then it may be any of them.
    const to = pointedAt(reference, row).kind;
    for (const target of to ? [to] : reference.targets) for (const id of ids) wanted.of(target).add(id);
  }
}

/**
 * All that a change can put in the wrong: the rows it names, what points at them and what they point at, the plan itself always. The rest
 * of the plan stays where it is, so that a change costs what it touches. Kinds that point come before those that they point at.
 */
export async function neighbourhood(tx: Queries, planId: string, patches: readonly Patch[]): Promise<PlanRows> {
  const named = new Ids();
  const wanted = new Ids();
  for (const { kind, id, set, put } of patches) {
    named.of(kind).add(id);
    if (set ?? put) addPointed(wanted, kind, (set ?? put)!);
  }
  const { rows: plans } = await tx.query(`SELECT ${selectList("plans")} FROM plans WHERE id = $1`, [planId]);
  const near = emptyRows(planSchema.parse(plans[0]));
  for (const kind of [...LIST_KINDS].reverse()) {
    const rows = await rowsNear(tx, planId, kind, new Set([...named.of(kind), ...wanted.of(kind)]), named);
    for (const row of rows) addPointed(wanted, kind, row);
    Object.assign(near, { [kind]: rows });
  }
  return near;
}

/** The rows of a kind with some ids, and those that point at rows that are named. */
async function rowsNear(
  tx: Queries,
  planId: string,
  kind: ListKind,
  ids: ReadonlySet<string>,
  named: Ids,
): Promise<object[]> {
  const values: unknown[] = [planId];
  const terms: string[] = [];
  const add = (term: (place: string) => string, list: Iterable<string>) => {
    const sought = [...new Set(list)];
    if (sought.length > 0) terms.push(term(`$${values.push(sought)}`));
  };
  add((place) => `id = ANY(${place})`, ids);
  for (const { name, isList, targets } of REFERENCES[kind])
    add(
      (place) => (isList ? `${toSnake(name)} ?| ${place}` : `${toSnake(name)} = ANY(${place})`),
      targets.flatMap((target) => [...named.of(target)]),
    );
  if (terms.length === 0) return [];
  const { rows } = await tx.query(
    `SELECT ${selectList(kind)} FROM ${kind} WHERE plan_id = $1 AND (${terms.join(" OR ")})`,
    values,
  );
  return rows.map((row) => ROW_SCHEMAS[kind].parse(row));
}
