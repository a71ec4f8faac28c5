import { fieldsOf, ROW_KINDS, type RowKind } from "#core/plan";

/** Columns of each table by the name of the field, in the order of its declaration. */
const COLUMNS = Object.fromEntries(
  ROW_KINDS.map((kind) => [kind, fieldsOf(kind).map(({ name }) => name)]),
) as unknown as Record<RowKind, string[]>;

/** `heightAglM` is `height_agl_m` in SQL. */
export function toSnake(name: string): string {
  return name.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
}

function columnList(kind: RowKind): string {
  return COLUMNS[kind].map(toSnake).join(", ");
}

/** Column list that hands rows back under their field names. */
export function selectList(kind: RowKind): string {
  return COLUMNS[kind].map((name) => `${toSnake(name)} AS "${name}"`).join(", ");
}

/** Inserts or replaces rows given as one JSON array, in one statement however many there are. */
export function upsertSql(kind: RowKind): string {
  const key = kind === "plans" ? "id" : "plan_id, id";
  const changing = COLUMNS[kind].map(toSnake).filter((column) => column !== "id" && column !== "plan_id");
  const set = changing.map((column) => `${column} = EXCLUDED.${column}`).join(", ");
  const columns = columnList(kind);
  return `INSERT INTO ${kind} (${columns}) SELECT ${columns} FROM jsonb_populate_recordset(NULL::${kind}, $1::jsonb) ON CONFLICT (${key}) DO UPDATE SET ${set}`;
}

/** A row as the database's JSON functions want it. */
export function toRecord(kind: RowKind, row: object): Record<string, unknown> {
  return Object.fromEntries(COLUMNS[kind].map((name) => [toSnake(name), (row as Record<string, unknown>)[name]]));
}
