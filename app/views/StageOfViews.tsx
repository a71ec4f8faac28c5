import type { ComponentType } from "react";
import { useSearchParams } from "react-router";
import type { StageManifest } from "./manifest";
import { StageViews } from "./StageViews";

/** A stage of several views, as its manifest names them; the chosen one in the address, the first where it names none. */
export function StageOfViews({
  stage: { views },
  shown: components,
}: {
  stage: StageManifest;
  shown: Readonly<Record<string, ComponentType>>;
}) {
  const [parameters] = useSearchParams();
  const asked = parameters.get("view") ?? "";
  const shown = Object.hasOwn(views, asked) ? asked : Object.keys(views)[0]!;
  const Shown = components[shown];
  if (!Shown) throw new Error(`the view ${shown} shows nothing`);
  return (
    <div className="flex h-full flex-col">
      <div className="border-b border-rule bg-panel px-3 py-1.5">
        <StageViews views={views} shown={shown} />
      </div>
      <div className="min-h-0 flex-1">
        <Shown />
      </div>
    </div>
  );
}
