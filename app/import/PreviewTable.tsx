import type { Mapping } from "#formats/places";
import { useVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { figure, useFormats } from "../ui";
import type { PreviewRow } from "./places.worker";

export const VERDICT_WORDS: Record<PreviewRow["verdict"], { glyph: string; word: string }> = {
  new: { glyph: "+", word: "new" },
  changed: { glyph: "✎", word: "changed" },
  same: { glyph: "=", word: "as it is" },
  duplicate: { glyph: "≈", word: "duplicate?" },
  rejected: { glyph: "✕", word: "rejected" },
};
const ROW_PX = 32;
const MEND_PX = 58;

/** Every row of a file with what would become of it; duplicates are chosen by hand, rejected rows are mended here. */
export function PreviewTable({
  rows,
  chosen,
  mapping,
  highlighted,
  onToggle,
  onMend,
}: {
  rows: PreviewRow[];
  chosen: ReadonlySet<number>;
  mapping: Mapping;
  highlighted: number | null;
  onToggle: (row: number) => void;
  onMend: (row: number, column: number, value: string) => void;
}) {
  const formats = useFormats();
  const holder = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => holder.current,
    estimateSize: (index) => (rows[index]!.verdict === "rejected" ? MEND_PX : ROW_PX),
    getItemKey: (index) => rows[index]!.row,
    overscan: 12,
  });
  return (
    <div
      ref={holder}
      role="table"
      aria-label="Rows of the file"
      aria-rowcount={rows.length}
      tabIndex={0}
      className="h-80 overflow-y-auto rounded border border-rule bg-panel text-[13px]"
    >
      <div role="rowgroup" style={{ height: virtual.getTotalSize() }} className="relative">
        {virtual.getVirtualItems().map((item) => {
          const row = rows[item.index]!;
          const { glyph, word } = VERDICT_WORDS[row.verdict];
          const fixed = row.verdict === "same" || row.verdict === "rejected";
          return (
            <div
              key={row.row}
              role="row"
              aria-rowindex={item.index + 1}
              style={{ transform: `translateY(${item.start}px)`, height: item.size }}
              className={`absolute inset-x-0 border-b border-rule px-2 ${highlighted === row.row ? "bg-ground" : ""}`}
            >
              <div className="flex h-8 items-center gap-2">
                <span role="cell" className="w-5">
                  <input
                    type="checkbox"
                    disabled={fixed}
                    checked={chosen.has(row.row)}
                    onChange={() => onToggle(row.row)}
                    aria-label={`Take row ${row.row}, ${row.name}`}
                    className="accent-[var(--clay)]"
                  />
                </span>
                <span role="cell" className="figures w-10 text-right text-xs text-quiet">
                  {row.row}
                </span>
                <span role="cell" className={`w-24 ${row.verdict === "rejected" ? "font-medium text-blocked" : ""}`}>
                  <span aria-hidden="true" className="inline-block w-4 text-center">
                    {glyph}
                  </span>{" "}
                  {word}
                </span>
                <span role="cell" className="w-20 truncate text-quiet">
                  {row.kind}
                </span>
                <span role="cell" className="w-44 truncate">
                  {row.name}
                </span>
                <span role="cell" className="figures w-52 truncate text-xs text-quiet">
                  {row.latDeg === null ? "" : formats.place({ latDeg: row.latDeg, lonDeg: row.lonDeg! })}
                </span>
                <span role="cell" className="min-w-0 flex-1 truncate text-xs text-quiet" title={row.note}>
                  {row.note}
                </span>
              </div>
              {row.verdict === "rejected" && (
                <div className="flex gap-2 pb-1 pl-17" role="cell">
                  {row.errors.slice(0, 4).map(({ field, value }) => {
                    const column = mapping[field];
                    if (column === undefined)
                      return (
                        <span key={field} className="text-xs text-blocked">
                          no column is read as {field}
                        </span>
                      );
                    return (
                      <label key={field} className="flex items-center gap-1 text-xs">
                        {field}
                        <input
                          defaultValue={value}
                          aria-label={`Mend ${field} of row ${row.row}`}
                          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
                          onBlur={(event) => {
                            if (event.target.value !== value) onMend(row.row, column, event.target.value);
                          }}
                          className="figures w-32 rounded border border-blocked bg-panel px-1"
                        />
                      </label>
                    );
                  })}
                </div>
              )}
            </div>
          );
        })}
      </div>
      <p className="sr-only">{figure(rows.length, 0)} rows</p>
    </div>
  );
}
