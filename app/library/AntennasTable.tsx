import { useState } from "react";
import { Link } from "react-router";
import type { AntennaModel } from "#core/antenna";
import { buttonClass, euros, figure, Table } from "../ui";
import { bandText, MOST_COMPARED } from "./lines";
import { TakeOutButton } from "./TakeOutButton";

type AntennaLine = Pick<AntennaModel, "id" | "maker" | "model" | "shape" | "bandMHz" | "priceEur"> & {
  gainDbi: number;
};

/** The library's antennas: some are compared side by side; one that no link stands on can be taken out. */
export function AntennasTable({
  base,
  antennas,
  uses,
  onTakeOut,
}: {
  /** The library's own address. */
  base: string;
  antennas: readonly AntennaLine[];
  uses: Readonly<Record<string, number>>;
  onTakeOut: (id: string, name: string) => void;
}) {
  const [chosen, setChosen] = useState<string[]>([]);
  return (
    <section aria-labelledby="antennas" className="mt-6">
      <div className="flex items-center gap-2">
        <h2 id="antennas" className="mr-auto font-semibold">
          Antennas ({antennas.length})
        </h2>
        {chosen.length > 1 && (
          <Link
            to={`${base}/antennas?${new URLSearchParams(chosen.map((id) => ["id", id]))}`}
            className={buttonClass("primary")}
          >
            Compare {chosen.length}
          </Link>
        )}
      </div>
      <Table
        caption="Antennas"
        columns={[
          { name: "Antenna" },
          { name: "Shape" },
          { name: "MHz" },
          { name: "Gain", isNumber: true },
          { name: "Price", isNumber: true },
          { name: "In use", isNumber: true },
          { name: "Compare" },
          { name: "Action", isHidden: true },
        ]}
      >
        {antennas.map(({ id, maker, model, shape, bandMHz, gainDbi, priceEur }) => (
          <tr key={id}>
            <td>
              <Link to={`${base}/antennas?${new URLSearchParams({ id })}`} className="text-clay underline">
                {maker} {model}
              </Link>
            </td>
            <td>{shape}</td>
            <td className="figures text-xs">{bandText(bandMHz)}</td>
            <td className="figures text-right text-xs">{figure(gainDbi)} dBi</td>
            <td className="figures text-right text-xs">{euros(priceEur)}</td>
            <td className="figures text-right text-xs">{uses[id] ?? 0}</td>
            <td>
              <input
                type="checkbox"
                aria-label={`Compare ${maker} ${model}`}
                checked={chosen.includes(id)}
                disabled={!chosen.includes(id) && chosen.length >= MOST_COMPARED}
                onChange={({ target: { checked } }) =>
                  setChosen(checked ? [...chosen, id] : chosen.filter((one) => one !== id))
                }
              />
            </td>
            <td className="text-right">
              {!uses[id] && <TakeOutButton name={`${maker} ${model}`} onTakeOut={(name) => onTakeOut(id, name)} />}
            </td>
          </tr>
        ))}
      </Table>
    </section>
  );
}
