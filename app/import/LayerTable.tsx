import { removePatch, setPatch, type Layer } from "#core/plan";
import { cellSizeM } from "#core/terrain";
import { useState } from "react";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { Button, figure, Table, type Column } from "../ui";
import { keepPatches } from "../keep/keepPatches";

const KIND_WORDS: Record<Layer["kind"], string> = {
  bare: "bare ground",
  surface: "surface, trees and roofs in it",
  cover: "land cover",
};

const COLUMNS: Column[] = [
  { name: "Raster" },
  { name: "Values" },
  { name: "Cell", isNumber: true },
  { name: "Cells", isNumber: true },
  { name: "Holes", isNumber: true },
  { name: "Remove", isHidden: true },
];

/** The rasters of a plan, finest first, as they are asked for the ground. */
export function LayerTable({ planId, revision, layers }: { planId: string; revision: number; layers: Layer[] }) {
  const { revalidate } = useRevalidator();
  const [busy, setBusy] = useState(false);
  const put = async (layer: Layer, row: Partial<Layer> | null, what: string) => {
    setBusy(true);
    const { ok, message } = await keepPatches(
      planId,
      revision,
      [row ? setPatch("layers", layer.id, row) : removePatch("layers", layer.id)],
      what,
    );
    setBusy(false);
    if (ok) toast(`${what}. Undo brings it back.`);
    else toast.error(message);
    await revalidate();
  };
  if (layers.length === 0)
    return (
      <p className="rounded border border-dashed border-rule p-3 text-sm text-quiet">
        No terrain yet: no path can be answered until the ground under it is known.
      </p>
    );
  const finestFirst = [...layers].sort((x, y) => cellSizeM(x) - cellSizeM(y));
  return (
    <Table caption="Rasters of the plan, finest first" columns={COLUMNS}>
      {finestFirst.map((layer) => (
        <tr key={layer.id} className="border-b border-rule">
          <td className="px-2 py-1">{layer.name}</td>
          <td>
            {layer.kind === "cover" ? (
              KIND_WORDS.cover
            ) : (
              <select
                aria-label={`Values of ${layer.name}`}
                disabled={busy}
                value={layer.kind}
                onChange={(event) =>
                  void put(
                    layer,
                    { kind: event.target.value as Layer["kind"] },
                    `${layer.name} is ${KIND_WORDS[event.target.value as Layer["kind"]]}`,
                  )
                }
                className="rounded border border-rule bg-panel text-xs"
              >
                <option value="bare">{KIND_WORDS.bare}</option>
                <option value="surface">{KIND_WORDS.surface}</option>
              </select>
            )}
          </td>
          <td className="figures text-right">{figure(cellSizeM(layer))} m</td>
          <td className="figures text-right">
            {layer.columns} × {layer.rows}
          </td>
          <td className="figures text-right">{layer.holeCount}</td>
          <td className="py-0.5 pr-2 text-right">
            <Button className="text-xs" disabled={busy} onClick={() => void put(layer, null, `Took out ${layer.name}`)}>
              Take out
            </Button>
          </td>
        </tr>
      ))}
    </Table>
  );
}
