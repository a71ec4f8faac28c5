import { COVER_KINDS, type CoverKind } from "#core/terrain";
import { Plus, Trash2 } from "lucide-react";
import { Button } from "../ui";

export interface LegendRow {
  value: string;
  kind: CoverKind;
  heightM: string;
  density: string;
}

/** Classes as many public land-cover rasters number them; a start, to be changed to what the file means. */
export const USUAL_LEGEND: LegendRow[] = [
  { value: "10", kind: "wood", heightM: "12", density: "1" },
  { value: "20", kind: "wood", heightM: "2", density: "0.5" },
  { value: "30", kind: "open", heightM: "0", density: "1" },
  { value: "40", kind: "open", heightM: "1", density: "1" },
  { value: "50", kind: "building", heightM: "8", density: "1" },
  { value: "60", kind: "open", heightM: "0", density: "1" },
  { value: "80", kind: "water", heightM: "0", density: "1" },
  { value: "90", kind: "open", heightM: "1", density: "1" },
];

const BOX = "w-full rounded border border-rule bg-panel px-1.5 py-0.5 text-xs";

/** What each class of a land-cover raster stands for: a kind, a height, and for trees how thick they stand. */
export function LegendEditor({ rows, onChange }: { rows: LegendRow[]; onChange: (rows: LegendRow[]) => void }) {
  const set = (index: number, change: Partial<LegendRow>) =>
    onChange(rows.map((row, i) => (i === index ? { ...row, ...change } : row)));
  return (
    <table className="w-full text-xs">
      <caption className="mb-1 text-left font-semibold text-quiet">
        Legend: every class of the file needs a line
      </caption>
      <thead>
        <tr className="text-left text-quiet">
          <th className="w-20 font-normal">Class</th>
          <th className="font-normal">Stands for</th>
          <th className="w-24 font-normal">Height, m</th>
          <th className="w-24 font-normal">Density</th>
          <th className="w-10">
            <span className="sr-only">Remove</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row, index) => (
          <tr key={index}>
            <td className="pr-1">
              <input
                aria-label={`Class of line ${index + 1}`}
                className={`figures ${BOX}`}
                value={row.value}
                onChange={(event) => set(index, { value: event.target.value })}
              />
            </td>
            <td className="pr-1">
              <select
                aria-label={`Kind of line ${index + 1}`}
                className={BOX}
                value={row.kind}
                onChange={(event) => set(index, { kind: event.target.value as CoverKind })}
              >
                {COVER_KINDS.map((kind) => (
                  <option key={kind}>{kind}</option>
                ))}
              </select>
            </td>
            <td className="pr-1">
              <input
                aria-label={`Height of line ${index + 1}`}
                className={`figures ${BOX}`}
                value={row.heightM}
                onChange={(event) => set(index, { heightM: event.target.value })}
              />
            </td>
            <td className="pr-1">
              <input
                aria-label={`Density of line ${index + 1}`}
                className={`figures ${BOX}`}
                value={row.density}
                onChange={(event) => set(index, { density: event.target.value })}
              />
            </td>
            <td>
              <Button
                look="quiet"
                aria-label={`Remove line ${index + 1}`}
                onClick={() => onChange(rows.filter((_, i) => i !== index))}
              >
                <Trash2 size={13} />
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td colSpan={5}>
            <Button onClick={() => onChange([...rows, { value: "", kind: "open", heightM: "0", density: "1" }])}>
              <Plus size={13} aria-hidden="true" /> Add a class
            </Button>
          </td>
        </tr>
      </tfoot>
    </table>
  );
}
