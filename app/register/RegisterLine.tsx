import { memo, type KeyboardEvent } from "react";
import { cellText, type RegisterColumn, type RegisterRow } from "./columns";

export const ROW_PX = 30;

/** What cells say besides their values: by row, then by column. */
export type CellNotes = Record<string, Record<string, string>>;

interface LineProps {
  row: RegisterRow;
  /** What cells of this row say besides their values, by column. */
  notes: Record<string, string> | undefined;
  index: number;
  startPx: number;
  columns: RegisterColumn[];
  selected: boolean;
  /** The column in focus, where the focus stands in this line. */
  focusColumn: number | null;
  /** What is being typed into that cell. */
  editing: string | null;
  onToggle: (id: string) => void;
  onFocus: (cell: { row: number; column: number }) => void;
  onEdit: (text: string) => void;
  onEnd: (keep: boolean) => void;
}

/** One line of the register. */
export const RegisterLine = memo(function RegisterLine(props: LineProps) {
  const { row, notes, index, startPx, columns, selected, focusColumn, editing } = props;
  return (
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={selected}
      style={{ transform: `translateY(${startPx}px)`, height: ROW_PX }}
      className={`absolute flex w-full border-b border-rule ${selected ? "bg-ground" : ""}`}
    >
      <span role="gridcell" className="flex w-10 items-center justify-center">
        <input
          type="checkbox"
          tabIndex={-1}
          aria-label={`Choose ${row.name}`}
          checked={selected}
          onChange={() => props.onToggle(row.id)}
          className="accent-[var(--clay)]"
        />
      </span>
      {columns.map((column, at) => {
        const isFocus = focusColumn === at;
        const value = cellText(row, column);
        const isEdited = isFocus && editing !== null;
        return (
          <span
            key={column.key}
            id={`cell-${index}-${at}`}
            role="gridcell"
            style={{ width: column.widthPx }}
            title={isFocus ? [value, notes?.[column.key]].filter(Boolean).join(" ") : undefined}
            onClick={() => props.onFocus({ row: index, column: at })}
            onDoubleClick={() => {
              props.onFocus({ row: index, column: at });
              props.onEdit(value);
            }}
            className={`truncate px-2 leading-[29px] ${column.type === "number" ? "figures text-right text-xs leading-[29px]" : ""} ${isFocus ? "outline-2 -outline-offset-2 outline-clay" : ""}`}
          >
            {isEdited ? (
              <CellEditor column={column} value={editing} onChange={props.onEdit} onEnd={props.onEnd} />
            ) : notes?.[column.key] ? (
              <>
                {value} <span className="text-tight">{notes[column.key]}</span>
              </>
            ) : (
              value
            )}
          </span>
        );
      })}
    </div>
  );
});

function CellEditor({
  column,
  value,
  onChange,
  onEnd,
}: {
  column: RegisterColumn;
  value: string;
  onChange: (value: string) => void;
  onEnd: (keep: boolean) => void;
}) {
  const keys = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === "Enter") onEnd(true);
    if (event.key === "Escape") onEnd(false);
  };
  const shared = {
    autoFocus: true,
    "aria-label": column.label,
    value,
    onKeyDown: keys,
    onBlur: () => onEnd(true),
    className: "w-full min-w-0 bg-panel outline-none",
  };
  if (column.type === "choice" || column.type === "yesno")
    return (
      <select {...shared} onChange={(event) => onChange(event.target.value)}>
        {(column.choices ?? ["yes", "no"]).map((one) => (
          <option key={one}>{one}</option>
        ))}
      </select>
    );
  return <input {...shared} onChange={(event) => onChange(event.target.value)} />;
}
