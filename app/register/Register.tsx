import { useVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useRef, useState, type ClipboardEvent, type KeyboardEvent } from "react";
import { toast } from "sonner";
import { cellText, type RegisterKind, type RegisterRow } from "./columns";
import { RegisterHead } from "./RegisterHead";
import { RegisterLine, ROW_PX, type CellNotes } from "./RegisterLine";
import { RegisterTools } from "./RegisterTools";
import { useRegisterChanges } from "./useRegisterChanges";
import { useRegisterTable } from "./useRegisterTable";

/** Rows and columns by which a key moves the focus. */
const MOVES: Record<string, [rows: number, columns: number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
  PageDown: [20, 0],
  PageUp: [-20, 0],
};

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
  const { rows, setCells } = useRegisterChanges(kind, planId, revision, given);
  const register = useRegisterTable(kind, rows);
  const { table, columns, filter, setSelection, shown } = register;
  const [focus, setFocus] = useState<{ row: number; column: number }>({ row: 0, column: 0 });
  const [editing, setEditing] = useState<string | null>(null);
  const isEditing = useRef(false);
  if (editing !== null) isEditing.current = true;

  const chosen = shown.filter((row) => row.getIsSelected()).map(({ original }) => original);
  const holder = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => holder.current,
    estimateSize: () => ROW_PX,
    overscan: 6,
  });
  const widthPx = 40 + columns.reduce((sum, column) => sum + column.widthPx, 0);

  const fillDown = () => {
    const from = shown[focus.row]?.original;
    const column = columns[focus.column];
    const below = chosen.filter((row) => row !== from);
    if (!from || !column || below.length === 0)
      return void toast("Choose the rows to fill first (Space), then fill from one of them.");
    const text = cellText(from, column);
    setCells(
      below.map((row) => ({ row, column, text })),
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
    const move = MOVES[event.key];
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
        const column = columns[focus.column + right];
        return row && column ? [{ row, column, text }] : [];
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
      setCells([{ row, column, text: editing }], `${row.name}: ${column.label} ${editing}`);
    setEditing(null);
    holder.current?.focus();
  };

  // Lines are drawn again only when something of theirs changes, so what they call must stay the same function.
  const toggle = useCallback(
    (id: string) => setSelection(({ [id]: was, ...others }) => (was ? others : { ...others, [id]: true })),
    [setSelection],
  );
  const latestFinish = useRef(finish);
  latestFinish.current = finish;
  const end = useCallback((keepIt: boolean) => latestFinish.current(keepIt), []);

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <RegisterTools {...{ kind, planId, revision, chosen, register, setCells, fillDown }} rowCount={rows.length} />
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
        <RegisterHead table={table} columns={columns} widthPx={widthPx} />
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
