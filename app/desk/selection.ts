import { useCallback } from "react";
import { setOrDrop, useAddress } from "../ui";

/** What is selected, as it stands in the URL: `sel=link:ID`. */
export type Selection = { kind: "link" | "site" | "subscriber" | "radio" | "area"; id: string } | null;

export function parseSelection(text: string | null): Selection {
  const match = /^(link|site|subscriber|radio|area):(.+)$/.exec(text ?? "");
  return match ? { kind: match[1] as NonNullable<Selection>["kind"], id: match[2]! } : null;
}

export function selectionText(selection: NonNullable<Selection>): string {
  return `${selection.kind}:${selection.id}`;
}

/** The selection and how to change it; each choice is a step of the browser's history. */
export function useSelection(): [Selection, (next: Selection) => void] {
  const [params, setParams] = useAddress();
  const select = useCallback(
    (next: Selection) =>
      setParams((params) => setOrDrop(params, "sel", next && selectionText(next)), { preventScrollReset: true }),
    [setParams],
  );
  return [parseSelection(params.get("sel")), select];
}
