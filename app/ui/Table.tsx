import type { ReactNode } from "react";

export interface Column {
  name: string;
  /** Numbers stand at the right. */
  isNumber?: boolean;
  /** Named for those who do not see the table; the sighted see what its cells hold. */
  isHidden?: boolean;
  /** Share of the table's width, such as "20%". With one of them all stand fast, however long what is in them. */
  width?: string;
}

/** A table with its quiet head; `caption` is for those who do not see it. Rows are the children. */
export function Table({
  caption,
  columns,
  isSticky = false,
  children,
}: {
  caption: string;
  columns: readonly Column[];
  /** The head stays in view while the rows are scrolled. */
  isSticky?: boolean;
  children: ReactNode;
}) {
  return (
    // On a phone a wide table is moved sideways by itself, not with the page.
    <div className="relative max-md:overflow-x-auto">
      <table
        className={`w-full text-[13px] [&_td]:px-1.5 [&_th]:px-1.5 ${columns.some(({ width }) => width) ? "table-fixed [&_td]:break-words" : ""}`}
      >
        <caption className="sr-only">{caption}</caption>
        <thead className={isSticky ? "sticky top-0 bg-panel" : ""}>
          <tr className="text-xs text-quiet">
            {columns.map(({ name, isNumber, isHidden, width }) => (
              <th key={name} style={{ width }} className={`font-normal ${isNumber ? "text-right" : "text-left"}`}>
                {isHidden ? <span className="sr-only">{name}</span> : name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="[&_tr]:border-t [&_tr]:border-rule [&_td]:py-0.5">{children}</tbody>
      </table>
    </div>
  );
}
