import { configSheet, sheetContext, type ConfigSheet, type SheetContext } from "#core/staging";
import type { World } from "#core/plan";
import { useMemo } from "react";
import { useDesk } from "../../desk/DeskContext";

/** The chosen device with its sheet, as the kept plan has it: what is only in hand is put into no device. Null where none is chosen. */
export function useChosenDevice(): { world: World; context: SheetContext; sheet: ConfigSheet | null } {
  const { kept, selection } = useDesk();
  const context = useMemo(() => sheetContext(kept), [kept]);
  const id = selection?.kind === "radio" && kept.radios.has(selection.id) ? selection.id : null;
  const sheet = useMemo(() => (id === null ? null : configSheet(kept, id, context)), [kept, id, context]);
  return { world: kept, context, sheet };
}
