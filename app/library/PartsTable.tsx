import { PART_KIND_WORDS, type Part } from "#core/plan";
import { counted } from "#core/words";
import { Button, euros, figure, Table } from "../ui";
import type { ReactNode } from "react";

/** What a part is made for, in a few words. */
function factsOf({
  poleMm,
  standard,
  volts,
  watts,
  ampereHours,
  ports,
  crossSectionMm2,
  deliveryDays,
  notes,
}: Part): string {
  return [
    poleMm && `poles of ${poleMm[0]} to ${poleMm[1]} mm`,
    standard,
    volts !== null && `${figure(volts, 0)} V`,
    watts !== null && `${figure(watts, 0)} W`,
    ampereHours !== null && `${figure(ampereHours, 0)} Ah`,
    ports !== null && `feeds ${ports}`,
    crossSectionMm2 !== null && `${figure(crossSectionMm2, 0)} mm²`,
    deliveryDays !== null && `in ${counted(deliveryDays, "day")}`,
    notes,
  ]
    .filter(Boolean)
    .join(", ");
}

/** Everything that is neither radio nor antenna. */
export function PartsTable({
  parts,
  uses,
  takeOut,
  onChange,
}: {
  parts: readonly Part[];
  uses: Readonly<Record<string, number>>;
  takeOut: (part: Part) => ReactNode;
  onChange: (part: Part) => void;
}) {
  return (
    <Table
      caption="Parts"
      columns={[
        { name: "Part" },
        { name: "Kind" },
        { name: "For" },
        { name: "Sold by", isNumber: true },
        { name: "Price", isNumber: true },
        { name: "Action", isHidden: true },
      ]}
    >
      {[...parts]
        .sort((x, y) => x.kind.localeCompare(y.kind))
        .map((part) => (
          <tr key={part.id}>
            <td>
              {part.maker} {part.model}
            </td>
            <td className="text-quiet">{PART_KIND_WORDS[part.kind]}</td>
            <td className="text-xs">{factsOf(part) || "–"}</td>
            <td className="figures text-right text-xs whitespace-nowrap">
              {part.packOf === 1 ? "piece" : `${figure(part.packOf, 0)}${part.unit === "m" ? " m" : ""}`}
            </td>
            <td className="figures text-right text-xs">{euros(part.priceEur)}</td>
            <td className="space-x-1 text-right whitespace-nowrap">
              <Button
                className="px-1.5 py-0 text-xs"
                aria-label={`Change ${part.maker} ${part.model}`}
                onClick={() => onChange(part)}
              >
                Change
              </Button>
              {!uses[part.id] && takeOut(part)}
            </td>
          </tr>
        ))}
    </Table>
  );
}
