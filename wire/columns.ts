/** A field of many rows: one value for all, a few values with a number for each row, or a value for each. */
type Column = { all: unknown } | { few: unknown[]; at: number[] } | { each: unknown[] };

/** Rows of one kind field by field, as they travel: ten thousand rows name their fields once. */
export interface Columns {
  count: number;
  fields: Record<string, Column>;
}

/** With more different values than this among its rows a field is sent as it is. */
const FEW_SHARE = 0.2;

function columnOf(values: unknown[]): Column {
  const known = new Map<unknown, number>();
  const most = values.length * FEW_SHARE;
  for (const value of values) {
    if (known.has(value)) continue;
    known.set(value, known.size);
    if (known.size > most && known.size > 1) return { each: values };
  }
  if (known.size === 1) return { all: values[0] };
  return { few: [...known.keys()], at: values.map((value) => known.get(value)!) };
}

/** Rows that all have the same fields, as columns. */
export function toColumns(rows: readonly object[]): Columns {
  const names = rows[0] ? Object.keys(rows[0]) : [];
  const of = (name: string) => columnOf(rows.map((row) => (row as Record<string, unknown>)[name]));
  return { count: rows.length, fields: Object.fromEntries(names.map((name) => [name, of(name)])) };
}

const valueAt = (column: Column, row: number): unknown =>
  "all" in column ? column.all : "each" in column ? column.each[row] : column.few[column.at[row]!];

/** The rows that `toColumns` was given. */
export function fromColumns<Row>({ count, fields }: Columns): Row[] {
  const columns = Object.entries(fields);
  return Array.from({ length: count }, (_, row) => {
    const one: Record<string, unknown> = {};
    for (const [name, column] of columns) one[name] = valueAt(column, row);
    return one as Row;
  });
}
