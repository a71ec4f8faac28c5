import { ArrowDown, ArrowUp } from "lucide-react";
import type { RegisterColumn } from "./columns";
import type { RegisterTable } from "./useRegisterTable";

/** The register's heads: each sorts by its column. */
export function RegisterHead({
  table,
  columns,
  widthPx,
}: {
  table: RegisterTable["table"];
  columns: readonly RegisterColumn[];
  widthPx: number;
}) {
  return (
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
  );
}
