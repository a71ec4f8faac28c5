import { tapeLines, type Tape, type TapeLine } from "#core/link";
import { overCap } from "#core/regulation";
import { useState } from "react";
import { figure, signedFigure } from "../ui";

function Line({
  line,
  warning,
  open,
  onToggle,
}: {
  line: TapeLine;
  /** What is wrong with this line, said right under it. */
  warning: string | null;
  open: boolean;
  onToggle: () => void;
}) {
  const total = line.stepDb === null;
  return (
    <>
      <tr className={total ? "border-t border-rule font-semibold" : ""}>
        <td className="py-0.5 pr-1">
          <button type="button" aria-expanded={open} onClick={onToggle} className="w-full text-left hover:text-clay">
            {line.label}
          </button>
        </td>
        <td className="figures pl-1 text-right whitespace-nowrap">
          {line.stepDb === null ? "" : signedFigure(line.stepDb)}
        </td>
        <td
          className={`figures pl-2 text-right whitespace-nowrap ${warning ? "text-blocked" : total ? "" : "text-quiet"}`}
        >
          {line.total === null ? "" : figure(line.total, line.unit === "Mbit/s" ? 0 : 1)}
        </td>
        <td className="pl-1 text-xs whitespace-nowrap text-quiet">{total ? line.unit : ""}</td>
      </tr>
      {warning && (
        <tr>
          <td colSpan={4} className="border-b-2 border-double border-blocked pb-1 text-xs text-blocked">
            ▲ {warning}
          </td>
        </tr>
      )}
      {open && (
        <tr>
          <td colSpan={4} className="pb-2 pl-3 text-xs">
            <p className="text-ink">{line.formula}</p>
            {line.inputs.length > 0 && (
              <dl className="my-1 grid grid-cols-[auto_1fr] gap-x-2">
                {line.inputs.map(([name, value], i) => (
                  <div key={i} className="contents">
                    <dt className="text-quiet">{name}</dt>
                    <dd className="figures">{value}</dd>
                  </div>
                ))}
              </dl>
            )}
            <p className="text-quiet">Source: {line.source}</p>
          </td>
        </tr>
      )}
    </>
  );
}

/** A link budget printed as on an adding machine: a signed step a line, the running total beside it. */
export function TapeView({ tape, caption }: { tape: Tape; caption: string }) {
  const { eirpDbm, limit, closed } = tape;
  const over = overCap({ eirpDbm, txPowerDbm: tape.question.from.radio.txPowerDbm }, limit);
  const warning = over ? `${over.words}: over the cap by ${figure(over.byDb)} dB` : closed;
  const warningOf = ({ key }: TapeLine) => (key === "eirp" ? warning : null);
  return <PrintedTape lines={tapeLines(tape)} caption={caption} warningOf={warningOf} />;
}

/** Lines of any sum of decibels, each opening to its formula, inputs and source. */
export function PrintedTape({
  lines,
  caption,
  warningOf = () => null,
}: {
  lines: readonly TapeLine[];
  caption: string;
  warningOf?: (line: TapeLine) => string | null;
}) {
  const [open, setOpen] = useState<string | null>(null);
  return (
    <table className="w-full border-collapse text-[13px]">
      <caption className="sr-only">{caption}</caption>
      <thead>
        <tr className="text-left text-xs text-quiet">
          <th className="font-normal">Line</th>
          <th className="pl-1 text-right font-normal">dB</th>
          <th className="pl-2 text-right font-normal">Total</th>
          <th className="font-normal">
            <span className="sr-only">Unit</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <Line
            key={line.key}
            line={line}
            warning={warningOf(line)}
            open={open === line.key}
            onToggle={() => setOpen(open === line.key ? null : line.key)}
          />
        ))}
      </tbody>
    </table>
  );
}
