import { useEffect, useState } from "react";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { patchBetween, type RowKinds } from "#core/plan";
import { keepPatches } from "../keep/keepPatches";
import { withCell, type RegisterColumn, type RegisterKind, type RegisterRow } from "./columns";

const MOST_SAID = 3;

/** A cell with the text that was typed for it. */
export interface TypedCell {
  row: RegisterRow;
  column: RegisterColumn;
  text: string;
}

/** The register's rows with what was just changed in them, and the way to change cells. */
export function useRegisterChanges(kind: RegisterKind, planId: string, revision: number, given: RegisterRow[]) {
  const { revalidate } = useRevalidator();
  const [rows, setRows] = useState(given);
  useEffect(() => setRows(given), [given]);
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
  const setCells = (cells: readonly TypedCell[], what: string) => {
    const next = new Map<string, RegisterRow>();
    const problems: string[] = [];
    for (const { row, column, text } of cells) {
      const set = withCell(kind, next.get(row.id) ?? row, column, text);
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
  return { rows, setCells };
}
