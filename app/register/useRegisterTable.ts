import {
  getCoreRowModel,
  getFilteredRowModel,
  useReactTable,
  type RowSelectionState,
  type SortingState,
} from "@tanstack/react-table";
import { useEffect, useMemo, useState } from "react";
import { COLUMNS, cellText, type RegisterKind, type RegisterRow } from "./columns";
import { rememberedColumns, usualColumns } from "./ColumnsMenu";

/** Ids of the rows whose name another row has too. */
function namedTwice(rows: readonly RegisterRow[]): Set<string> {
  const byName = new Map<string, string[]>();
  for (const { id, name } of rows) {
    const key = name.toLowerCase();
    const known = byName.get(key);
    if (known) known.push(id);
    else byName.set(key, [id]);
  }
  return new Set([...byName.values()].filter((ids) => ids.length > 1).flat());
}

const collator = new Intl.Collator(undefined, { numeric: true });

function sortRows(kind: RegisterKind, rows: readonly RegisterRow[], sorting: SortingState): readonly RegisterRow[] {
  const [by] = sorting;
  const column = COLUMNS[kind].find(({ key }) => key === by?.id);
  if (!by || !column) return rows;
  const way = by.desc ? -1 : 1;
  const keyed = rows.map((row) => ({ row, text: cellText(row, column) }));
  const numeric = column.type === "number";
  keyed.sort((x, y) => way * (numeric ? Number(x.text) - Number(y.text) : collator.compare(x.text, y.text)));
  return keyed.map(({ row }) => row);
}

/** The register's rows as they are sorted, filtered and selected, and its columns as they are chosen. */
export function useRegisterTable(kind: RegisterKind, rows: readonly RegisterRow[]) {
  const [filter, setFilter] = useState("");
  const [sorting, setSorting] = useState<SortingState>([{ id: "name", desc: false }]);
  const [selection, setSelection] = useState<RowSelectionState>({});
  const [visibility, setVisibility] = useState(() => usualColumns(kind));
  useEffect(() => setVisibility(rememberedColumns(kind)), [kind]);
  // One text a row to look through: filtering ten thousand rows must not make ten thousand texts each time.
  const haystack = useMemo(
    () =>
      new Map(
        rows.map((row) => [
          row.id,
          COLUMNS[kind]
            .filter(({ key }) => key !== "latDeg" && key !== "lonDeg")
            .map((column) => cellText(row, column))
            .join(" ")
            .toLowerCase(),
        ]),
      ),
    [rows, kind],
  );
  const [onlyTwice, setOnlyTwice] = useState(false);
  const twice = useMemo(() => namedTwice(rows), [rows]);
  // Sorted once and filtered often: a key stroke in the filter must not sort ten thousand rows again.
  const sorted = useMemo(
    () => sortRows(kind, onlyTwice && twice.size > 0 ? rows.filter(({ id }) => twice.has(id)) : rows, sorting),
    [kind, rows, sorting, onlyTwice, twice],
  );
  const table = useReactTable<RegisterRow>({
    data: sorted as RegisterRow[],
    columns: useMemo(
      () => COLUMNS[kind].map(({ key, label }) => ({ id: key, accessorKey: key, header: label })),
      [kind],
    ),
    state: { sorting, rowSelection: selection, columnVisibility: visibility, globalFilter: filter },
    getRowId: (row) => row.id,
    onSortingChange: setSorting,
    onRowSelectionChange: setSelection,
    onColumnVisibilityChange: setVisibility,
    onGlobalFilterChange: setFilter,
    globalFilterFn: (row, _column, wanted: string) =>
      wanted
        .toLowerCase()
        .split(/\s+/)
        .every((word) => haystack.get(row.id)?.includes(word)),
    getColumnCanGlobalFilter: ({ id }) => id === "name",
    getCoreRowModel: getCoreRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
    manualSorting: true,
  });
  const columns = useMemo(() => COLUMNS[kind].filter(({ key }) => visibility[key]), [kind, visibility]);
  return {
    ...{ table, columns, filter, setFilter, setSelection, visibility, setVisibility },
    ...{ twice, onlyTwice, setOnlyTwice },
    shown: table.getRowModel().rows,
  };
}
export type RegisterTable = ReturnType<typeof useRegisterTable>;
