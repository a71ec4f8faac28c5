import type { ReactNode } from "react";
import { useDesk } from "./DeskContext";
import type { Selection } from "./selection";

/** A thing of the plan as plain words in a list: a press chooses it, and the chosen one is coloured. */
export function ChooseButton({ of, children }: { of: NonNullable<Selection>; children: ReactNode }) {
  const { selection, select } = useDesk();
  const isChosen = selection?.kind === of.kind && selection.id === of.id;
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      className={`text-left hover:text-clay ${isChosen ? "text-clay" : ""}`}
      onClick={() => select(of)}
    >
      {children}
    </button>
  );
}
