import { Link } from "react-router";
import type { RadioModel } from "#core/radio";
import { buttonClass, euros, figure, Table } from "../ui";
import { bandText } from "./lines";
import { TakeOutButton } from "./TakeOutButton";

/** The library's radios; one that no link stands on can be taken out. */
export function RadiosTable({
  base,
  radios,
  uses,
  onTakeOut,
}: {
  /** The library's own address. */
  base: string;
  radios: readonly RadioModel[];
  uses: Readonly<Record<string, number>>;
  onTakeOut: (id: string, name: string) => void;
}) {
  return (
    <section aria-labelledby="radios">
      <div className="flex items-center gap-2">
        <h2 id="radios" className="mr-auto font-semibold">
          Radios ({radios.length})
        </h2>
        <Link to={`${base}/radios/new`} className={buttonClass()}>
          Add a radio
        </Link>
      </div>
      <Table
        caption="Radios"
        columns={[
          { name: "Radio" },
          { name: "Use" },
          { name: "MHz" },
          { name: "Widths, MHz" },
          { name: "Power", isNumber: true },
          { name: "Range", isNumber: true },
          { name: "Price", isNumber: true },
          { name: "In use", isNumber: true },
          { name: "Action", isHidden: true },
        ]}
      >
        {radios.map((radio) => (
          <tr key={radio.id}>
            <td>
              <Link to={`${base}/radios/${encodeURIComponent(radio.id)}`} className="text-clay underline">
                {radio.maker} {radio.model}
              </Link>
            </td>
            <td>{radio.use}</td>
            <td className="figures text-xs">{bandText(radio.bandMHz)}</td>
            <td className="figures text-xs">{radio.widthsMHz.join(", ")}</td>
            <td className="figures text-right text-xs">{figure(radio.powerMaxDbm, 0)} dBm</td>
            <td className="figures text-right text-xs">{figure(radio.rangeLimitKm, 0)} km</td>
            <td className="figures text-right text-xs">{euros(radio.priceEur)}</td>
            <td className="figures text-right text-xs">{uses[radio.id] ?? 0}</td>
            <td className="text-right">
              {!uses[radio.id] && (
                <TakeOutButton name={`${radio.maker} ${radio.model}`} onTakeOut={(name) => onTakeOut(radio.id, name)} />
              )}
            </td>
          </tr>
        ))}
      </Table>
    </section>
  );
}
