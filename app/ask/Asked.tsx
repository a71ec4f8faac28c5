import type { ReactNode } from "react";
import type { ViewState } from "./useView";

/** An answer about many paths: what is waited for, what went wrong, or its rows, dimmed while newer ones are on their way. */
export function Asked<Row>({
  view: { rows, failed, isStale },
  waiting,
  none,
  children,
}: {
  view: ViewState<Row>;
  waiting: string;
  none: string;
  children: (rows: Row[]) => ReactNode;
}) {
  if (failed)
    return (
      <p role="alert" className="mt-2 text-sm text-blocked">
        {failed}
      </p>
    );
  if (!rows) return <p className="mt-2 text-sm text-quiet">{waiting}</p>;
  if (rows.length === 0) return <p className="mt-2 text-sm text-quiet">{none}</p>;
  return <div className={isStale ? "opacity-60" : ""}>{children(rows)}</div>;
}
