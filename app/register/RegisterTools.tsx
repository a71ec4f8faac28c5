import { useRevalidator } from "react-router";
import { Button } from "../ui";
import { COLUMNS, type RegisterKind, type RegisterRow } from "./columns";
import { ColumnsMenu } from "./ColumnsMenu";
import { ExportSelection } from "./ExportSelection";
import { LinkChosen } from "./LinkChosen";
import { SetForAll } from "./SetForAll";
import { TakeOut } from "./TakeOut";
import type { TypedCell } from "./useRegisterChanges";
import type { RegisterTable } from "./useRegisterTable";

/** Above the register: its filter, and what is done to the selected rows. */
export function RegisterTools({
  kind,
  planId,
  revision,
  rowCount,
  chosen,
  register: { shown, filter, setFilter, setSelection, visibility, setVisibility, twice, onlyTwice, setOnlyTwice },
  setCells,
  fillDown,
}: {
  kind: RegisterKind;
  planId: string;
  revision: number;
  rowCount: number;
  chosen: readonly RegisterRow[];
  register: RegisterTable;
  setCells: (cells: readonly TypedCell[], what: string) => void;
  fillDown: () => void;
}) {
  const { revalidate } = useRevalidator();
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-rule bg-panel px-3 py-2">
      <input
        type="search"
        value={filter}
        onChange={(event) => setFilter(event.target.value)}
        placeholder={`Filter ${rowCount} ${kind}`}
        aria-label={`Filter ${kind}`}
        className="w-64 rounded border border-rule bg-panel px-2 py-1 text-sm"
      />
      <span role="status" className="figures text-xs text-quiet">
        {shown.length} shown, {chosen.length} chosen
      </span>
      <SetForAll
        columns={COLUMNS[kind]}
        count={chosen.length}
        onSet={(column, text) =>
          setCells(
            chosen.map((row) => ({ row, column, text })),
            `${column.label} of ${chosen.length} ${kind}: ${text}`,
          )
        }
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
  );
}
