import { billOf, stockedLines, type Stock, type StockedLine } from "#core/bill";
import { counted } from "#core/words";
import { useEffect, useMemo, useState } from "react";
import { toast } from "sonner";
import { useDesk } from "../../desk/DeskContext";
import type { StockAsk } from "#wire";
import { buttonClass, euros, figure, Table } from "../../ui";
import { useBeside, type BesideAnswer } from "../../ask/useBeside";

const NUMBER = "figures text-right whitespace-nowrap";
type Field = StockAsk["field"];
/** What one tick completes. */
type Ticked = Exclude<Field, "inStore">;

/** What makes a figure complete: all that is still lacking ordered in whole packs, all that was ordered there, all that is used packed. */
function whole(line: StockedLine, field: Ticked): number {
  const { stock, needed, packsLeft, packOf } = line;
  if (field === "ordered") return stock.ordered + packsLeft * packOf;
  if (field === "arrived") return Math.max(stock.ordered, stock.arrived);
  return Math.max(needed, stock.packed);
}
const isWhole = (line: StockedLine, field: Ticked): boolean =>
  field === "ordered"
    ? line.leftToOrder === 0
    : field === "arrived"
      ? line.stock.ordered > 0 && line.onItsWay === 0
      : line.leftToPack === 0;

/** Each item of the whole plan's bill against what lies in store, is ordered, has arrived and is packed. */
export function StoreView() {
  const { kept, data } = useDesk();
  const planId = data.world.plan.id;
  const { kept: stocks, failed, look, ask } = useBeside<Stock[], StockAsk, BesideAnswer>(`/plans/${planId}/stock`);
  const [onlyOpen, setOnlyOpen] = useState(false);
  const lines = useMemo(
    () => stocks && stockedLines(billOf(kept), new Map(stocks.map((stock) => [stock.itemId, stock]))),
    [kept, stocks],
  );
  if (failed && !lines)
    return (
      <p role="alert" className="p-8 text-center text-sm text-blocked">
        {failed}
      </p>
    );
  if (!lines)
    return (
      <p role="status" className="p-8 text-center text-sm text-quiet">
        Reading what is in store…
      </p>
    );
  const put = async (itemId: string, field: Field, count: number) => {
    const answer = await ask({ itemId, field, count });
    await look();
    return answer?.ok ?? false;
  };
  const leftEur = lines.reduce((sum, line) => sum + line.leftEur, 0);
  const toPack = lines.filter(({ leftToPack }) => leftToPack > 0).length;
  const shown = onlyOpen
    ? lines.filter(({ leftToOrder, leftToPack, onItsWay }) => leftToOrder + leftToPack + onItsWay > 0)
    : lines;
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]" tabIndex={0} role="region" aria-label="Store">
      <div className="flex flex-wrap items-center gap-3">
        <p className="min-w-64 flex-1" role="status">
          Left to order: <strong>{euros(leftEur)}</strong>; {counted(toPack, "item")} not packed yet. Counted in pieces
          and metres, for the plan as kept.
        </p>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-[var(--clay)]"
            checked={onlyOpen}
            onChange={({ target }) => setOnlyOpen(target.checked)}
          />
          Only what is open
        </label>
        <a className={buttonClass()} href={`/plans/${planId}/kit/order.pdf`} download>
          Order, PDF
        </a>
      </div>
      {failed && (
        <p role="alert" className="mt-2 text-blocked">
          {failed}
        </p>
      )}
      <Table
        caption="Store"
        isSticky
        columns={[
          { name: "Item", width: "24%" },
          { name: "Needed + spare", isNumber: true, width: "12%" },
          { name: "In store", isNumber: true, width: "12%" },
          { name: "Ordered", isNumber: true, width: "13%" },
          { name: "Arrived", isNumber: true, width: "13%" },
          { name: "Packed", isNumber: true, width: "13%" },
          { name: "To order", isNumber: true, width: "13%" },
        ]}
      >
        {shown.map((line) => (
          <tr key={line.itemId} data-stock={line.itemId}>
            <td>{line.name}</td>
            <td className={NUMBER}>
              {figure(line.needed, 0)}
              {line.spare > 0 && ` + ${figure(line.spare, 0)}`}
              {line.unit === "m" && " m"}
            </td>
            <td>
              <Count line={line} field="inStore" word="in store" onPut={put} />
            </td>
            {(["ordered", "arrived", "packed"] as const).map((field) => (
              <td key={field}>
                <span className="flex items-center justify-end gap-1">
                  <input
                    type="checkbox"
                    className="size-4 accent-[var(--clay)]"
                    aria-label={`All of ${line.name} ${field}`}
                    checked={isWhole(line, field)}
                    onChange={({ target }) => void put(line.itemId, field, target.checked ? whole(line, field) : 0)}
                  />
                  <Count line={line} field={field} word={field} onPut={put} />
                </span>
              </td>
            ))}
            <td className={`${NUMBER} ${line.packsLeft > 0 ? "font-semibold" : "text-quiet"}`}>
              {line.packsLeft === 0 ? "–" : line.packOf === 1 ? line.packsLeft : `${line.packsLeft} × ${line.packOf}`}
            </td>
          </tr>
        ))}
      </Table>
      {shown.length === 0 && <p className="mt-4 text-quiet">Nothing is open.</p>}
    </div>
  );
}

/** One figure to be typed; it is kept when the box is left. */
function Count({
  line,
  field,
  word,
  onPut,
}: {
  line: StockedLine;
  field: Field;
  word: string;
  onPut: (itemId: string, field: Field, count: number) => Promise<boolean>;
}) {
  const value = line.stock[field];
  const [typed, setTyped] = useState(String(value));
  useEffect(() => setTyped(String(value)), [value]);
  const keep = () => {
    if (typed.trim() === String(value)) return;
    const back = () => setTyped(String(value));
    if (/^\d{1,6}$/.test(typed.trim()))
      return void onPut(line.itemId, field, Number(typed)).then((isKept) => isKept || back());
    toast.error(`Not kept: ${line.name}, ${word}, must be a whole number from 0 to 999,999; "${typed}" is none.`);
    back();
  };
  return (
    <input
      aria-label={`${line.name}, ${word}`}
      inputMode="numeric"
      value={typed}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={keep}
      onKeyDown={({ key, currentTarget }) => key === "Enter" && currentTarget.blur()}
      className="figures ml-auto block w-14 rounded border border-rule bg-panel px-1 py-0.5 text-right"
    />
  );
}
