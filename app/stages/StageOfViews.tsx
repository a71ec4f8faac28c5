import type { ComponentType } from "react";
import { useSearchParams } from "react-router";
import { StageViews } from "./StageViews";

/** A stage's views by their word in the address: how each is called, and what it shows. */
export type Views = Readonly<Record<string, { name: string; Shown: ComponentType }>>;

/** A stage of several views, the chosen one in the address; the first is shown where it names none. */
export function StageOfViews({ views }: { views: Views }) {
  const [parameters] = useSearchParams();
  const asked = parameters.get("view") ?? "";
  const shown = Object.hasOwn(views, asked) ? asked : Object.keys(views)[0]!;
  const { Shown } = views[shown]!;
  const names = Object.fromEntries(Object.entries(views).map(([view, { name }]) => [view, name]));
  return (
    <div className="flex h-full flex-col">
      <div className="border-b border-rule bg-panel px-3 py-1.5">
        <StageViews views={names} shown={shown} />
      </div>
      <div className="min-h-0 flex-1">
        <Shown />
      </div>
    </div>
  );
}
