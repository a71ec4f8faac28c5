import {
  getCoreRowModel,
  getFilteredRowModel,
  useReactTable,
  type RowSelectionState,
  type SortingState,
} from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useCallback, useEffect, useMemo, useRef, useState, type ClipboardEvent, type KeyboardEvent } from "react";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { patchBetween, type RowKinds } from "#core/plan";
import { keepPatches } from "../keep/keepPatches";
import { Button } from "../ui";
import { COLUMNS, cellText, withCell, type RegisterKind, type RegisterRow } from "./columns";
import { ColumnsMenu, rememberedColumns, usualColumns } from "./ColumnsMenu";
import { ExportSelection } from "./ExportSelection";
import { LinkChosen } from "./LinkChosen";
import { RegisterLine, ROW_PX, type CellNotes } from "./RegisterLine";
import { SetForAll } from "./SetForAll";
import { TakeOut } from "./TakeOut";

const MOST_SAID = 3;

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

function sortRows(kind: RegisterKind, rows: RegisterRow[], sorting: SortingState): RegisterRow[] {
  const [by] = sorting;
  const column = COLUMNS[kind].find(({ key }) => key === by?.id);
  if (!by || !column) return rows;
  const way = by.desc ? -1 : 1;
  const keyed = rows.map((row) => ({ row, text: cellText(row, column) }));
  const numeric = column.type === "number";
  keyed.sort((x, y) => way * (numeric ? Number(x.text) - Number(y.text) : collator.compare(x.text, y.text)));
  return keyed.map(({ row }) => row);
}

/** Every site or subscriber as a row: filtered, sorted, edited alone or many at once, pasted into from a spreadsheet. */
export function Register({
  kind,
  planId,
  revision,
  rows: given,
  notes,
}: {
  kind: RegisterKind;
  planId: string;
  /** Of the rows. */
  revision: number;
  rows: RegisterRow[];
  /** What a cell says besides its value, by row and column. */
  notes: CellNotes;
}) {
  const { revalidate } = useRevalidator();
  const [rows, setRows] = useState(given);
  useEffect(() => setRows(given), [given]);
  const [filter, setFilter] = useState("");
  const [sorting, setSorting] = useState<SortingState>([{ id: "name", desc: false }]);
  const [selection, setSelection] = useState<RowSelectionState>({});
  const [visibility, setVisibility] = useState(() => usualColumns(kind));
  useEffect(() => setVisibility(rememberedColumns(kind)), [kind]);
  const [focus, setFocus] = useState<{ row: number; column: number }>({ row: 0, column: 0 });
  const [editing, setEditing] = useState<string | null>(null);
  const isEditing = useRef(false);
  if (editing !== null) isEditing.current = true;

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
    data: sorted,
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
  const shown = table.getRowModel().rows;
  const columns = useMemo(() => COLUMNS[kind].filter(({ key }) => visibility[key]), [kind, visibility]);
  const chosen = shown.filter((row) => row.getIsSelected()).map(({ original }) => original);
  const holder = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => holder.current,
    estimateSize: () => ROW_PX,
    overscan: 6,
  });
  const widthPx = 40 + columns.reduce((sum, column) => sum + column.widthPx, 0);

  /** Shows the change at once and keeps it; what cannot be kept is put back. */
  const keep = async (changed: RegisterRow[], what: string) => {
    if (changed.length === 0) return;
    const before = rows;
    const byId = new Map(changed.map((row) => [row.id, row]));
    setRows((old) => old.map((row) => byId.get(row.id) ?? row));
    const known = new Map(before.map((row) => [row.id, row]));
    const patches = changed.flatMap((row) => {
      const patch = patchBetween(kind, known.get(row.id) as RowKinds[typeof kind], row as RowKinds[typeof kind]);
      return patch ? [patch] : [];
    });
    const { ok, message } = await keepPatches(planId, revision, patches, what);
    if (ok) {
      toast(`${what}.`);
      await revalidate();
    } else {
      setRows(before);
      toast.error(message, { duration: 12_000 });
    }
  };
  /** Sets cells to typed texts; nothing is kept while one of them cannot be. */
  const setCells = (cells: { row: RegisterRow; column: number; text: string }[], what: string) => {
    const next = new Map<string, RegisterRow>();
    const problems: string[] = [];
    for (const { row, column, text } of cells) {
      const set = withCell(kind, next.get(row.id) ?? row, columns[column]!, text);
      if (typeof set === "string") problems.push(set);
      else next.set(row.id, set);
    }
    if (problems.length > 0) {
      const rest = problems.length - MOST_SAID;
      toast.error(`Not kept. ${problems.slice(0, MOST_SAID).join("; ")}${rest > 0 ? `; and ${rest} more` : ""}`, {
        duration: 12_000,
      });
      return;
    }
    void keep([...next.values()], what);
  };
  const fillDown = () => {
    const from = shown[focus.row]?.original;
    const column = columns[focus.column];
    const below = chosen.filter((row) => row !== from);
    if (!from || !column || below.length === 0)
      return void toast("Choose the rows to fill first (Space), then fill from one of them.");
    const text = cellText(from, column);
    setCells(
      below.map((row) => ({ row, column: focus.column, text })),
      `${column.label} of ${below.length} ${kind}: ${text}`,
    );
  };
  const focusCell = (row: number, column: number) => {
    const next = {
      row: Math.max(0, Math.min(shown.length - 1, row)),
      column: Math.max(0, Math.min(columns.length - 1, column)),
    };
    setFocus(next);
    virtual.scrollToIndex(next.row);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (editing !== null) return;
    const moves: Record<string, [number, number]> = {
      ArrowDown: [1, 0],
      ArrowUp: [-1, 0],
      ArrowRight: [0, 1],
      ArrowLeft: [0, -1],
      PageDown: [20, 0],
      PageUp: [-20, 0],
    };
    const move = moves[event.key];
    const row = shown[focus.row];
    if (move) focusCell(focus.row + move[0], focus.column + move[1]);
    else if (event.key === "Home") focusCell(0, focus.column);
    else if (event.key === "End") focusCell(shown.length - 1, focus.column);
    else if ((event.key === "Enter" || event.key === "F2") && row)
      setEditing(cellText(row.original, columns[focus.column]!));
    else if (event.key === " " && row) row.toggleSelected();
    else if (event.key.toLowerCase() === "d" && (event.ctrlKey || event.metaKey)) fillDown();
    else if (event.key.toLowerCase() === "a" && (event.ctrlKey || event.metaKey)) table.toggleAllRowsSelected(true);
    else return;
    event.preventDefault();
  };
  const onPaste = (event: ClipboardEvent) => {
    if (editing !== null) return;
    const lines = event.clipboardData
      .getData("text/plain")
      .replace(/\r?\n$/, "")
      .split(/\r?\n/);
    if (lines.length === 0 || shown.length === 0) return;
    event.preventDefault();
    const cells = lines.flatMap((line, down) =>
      line.split("\t").flatMap((text, right) => {
        const row = shown[focus.row + down]?.original;
        const column = focus.column + right;
        return row && columns[column] ? [{ row, column, text }] : [];
      }),
    );
    setCells(cells, `Pasted ${cells.length} cells`);
  };
  const finish = (keepIt: boolean) => {
    // Enter takes the focus away, which would end the editing a second time.
    if (!isEditing.current) return;
    isEditing.current = false;
    const row = shown[focus.row]?.original;
    const column = columns[focus.column];
    if (keepIt && row && column && editing !== null && editing !== cellText(row, column))
      setCells([{ row, column: focus.column, text: editing }], `${row.name}: ${column.label} ${editing}`);
    setEditing(null);
    holder.current?.focus();
  };

  // Lines are drawn again only when something of theirs changes, so what they call must stay the same function.
  const toggle = useCallback(
    (id: string) => setSelection(({ [id]: was, ...others }) => (was ? others : { ...others, [id]: true })),
    [],
  );
  const latestFinish = useRef(finish);
  latestFinish.current = finish;
  const end = useCallback((keepIt: boolean) => latestFinish.current(keepIt), []);

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule bg-panel px-3 py-2">
        <input
          type="search"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
          placeholder={`Filter ${rows.length} ${kind}`}
          aria-label={`Filter ${kind}`}
          className="w-64 rounded border border-rule bg-panel px-2 py-1 text-sm"
        />
        <span role="status" className="figures text-xs text-quiet">
          {shown.length} shown, {chosen.length} chosen
        </span>
        <SetForAll
          columns={COLUMNS[kind]}
          count={chosen.length}
          onSet={(column, text) => {
            const problems: string[] = [];
            const next: RegisterRow[] = [];
            for (const row of chosen) {
              const set = withCell(kind, row, column, text);
              if (typeof set === "string") problems.push(set);
              else next.push(set);
            }
            if (problems.length > 0)
              toast.error(`Not kept. ${problems.slice(0, MOST_SAID).join("; ")}`, { duration: 12_000 });
            else void keep(next, `${column.label} of ${next.length} ${kind}: ${text}`);
          }}
        />
        <Button
          disabled={chosen.length < 2}
          onClick={fillDown}
          title="Puts the cell in focus into all chosen rows (Ctrl D)"
        >
          Fill down
        </Button>
        {kind === "subscribers" && (
          <LinkChosen
            planId={planId}
            revision={revision}
            ids={chosen.map(({ id }) => id)}
            onDone={() => void revalidate()}
          />
        )}
        <TakeOut
          planId={planId}
          kind={kind}
          ids={chosen.map(({ id }) => id)}
          onDone={() => {
            setSelection({});
            void revalidate();
          }}
        />
        {twice.size > 0 && (
          <Button
            aria-pressed={onlyTwice}
            className={onlyTwice ? "border-clay text-clay" : ""}
            onClick={() => setOnlyTwice(!onlyTwice)}
            title="Rows whose name stands more than once"
          >
            {twice.size} of one name
          </Button>
        )}
        <ExportSelection
          planId={planId}
          kind={kind}
          ids={chosen.length > 0 ? chosen.map(({ id }) => id) : shown.map(({ id }) => id)}
        />
        <ColumnsMenu kind={kind} visibility={visibility} onChange={setVisibility} />
      </div>
      <div
        ref={holder}
        role="grid"
        tabIndex={0}
        aria-label={`${kind}. Arrow keys move, Enter patches, Space chooses the row, Control D fills down, pasting fills from here.`}
        aria-rowcount={shown.length + 1}
        aria-multiselectable="true"
        aria-activedescendant={shown[focus.row] ? `cell-${focus.row}-${focus.column}` : undefined}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        className="min-h-0 flex-1 overflow-auto bg-panel text-[13px] outline-none focus-visible:ring-2 focus-visible:ring-clay focus-visible:ring-inset"
      >
        <div
          role="row"
          style={{ width: widthPx }}
          className="sticky top-0 z-10 flex border-b border-rule bg-ground text-xs text-quiet"
        >
          <span role="columnheader" className="flex w-10 items-center justify-center">
            <input
              type="checkbox"
              tabIndex={-1}
              aria-label="Choose all shown rows"
              checked={table.getIsAllRowsSelected()}
              onChange={(event) => table.toggleAllRowsSelected(event.target.checked)}
              className="accent-[var(--clay)]"
            />
          </span>
          {columns.map(({ key, label, type, widthPx: width }) => {
            const column = table.getColumn(key)!;
            const sorted = column.getIsSorted();
            return (
              <span
                key={key}
                role="columnheader"
                aria-sort={sorted === "asc" ? "ascending" : sorted === "desc" ? "descending" : "none"}
                style={{ width }}
              >
                <button
                  type="button"
                  onClick={() => column.toggleSorting()}
                  className={`flex h-7 w-full items-center gap-1 px-2 hover:text-clay ${type === "number" ? "justify-end" : ""}`}
                >
                  <span className="truncate">{label}</span>
                  {sorted === "asc" && <ArrowUp size={12} aria-hidden="true" />}
                  {sorted === "desc" && <ArrowDown size={12} aria-hidden="true" />}
                </button>
              </span>
            );
          })}
        </div>
        <div style={{ height: virtual.getTotalSize(), width: widthPx }} className="relative">
          {virtual.getVirtualItems().map((item) => {
            const row = shown[item.index]!;
            const isFocus = focus.row === item.index;
            return (
              <RegisterLine
                key={row.id}
                row={row.original}
                notes={notes[row.id]}
                index={item.index}
                startPx={item.start}
                columns={columns}
                selected={row.getIsSelected()}
                focusColumn={isFocus ? focus.column : null}
                editing={isFocus ? editing : null}
                onToggle={toggle}
                onFocus={setFocus}
                onEdit={setEditing}
                onEnd={end}
              />
            );
          })}
        </div>
        {shown.length === 0 && (
          <p className="p-6 text-center text-sm text-quiet">
            {rows.length === 0 ? `No ${kind} yet. Import them from a file.` : `Nothing matches "${filter}".`}
          </p>
        )}
      </div>
    </div>
  );
}
