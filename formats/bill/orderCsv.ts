import type { Bill } from "#core/bill";
import { writeCsv } from "../text";

const COLUMNS = ["item", "kind", "needed", "spare", "unit", "packOf", "packs", "priceEur", "weightKg"] as const;

/** A bill as a list to order by: one row an item, then what it comes to. Prices in euro, weights of what the plan uses in kilograms. */
export function writeOrderCsv({ lines, priceEur, weightKg }: Bill): string {
  return writeCsv(COLUMNS, [
    ...lines.map(({ name, kind, needed, spare, unit, packOf, packs, priceEur: price, weightKg: weight }) => [
      ...[name, kind, needed, spare, unit, packOf, packs],
      ...[Number(price.toFixed(2)), Number(weight.toFixed(2))],
    ]),
    ["sum", "", "", "", "", "", "", Number(priceEur.toFixed(2)), Number(weightKg.toFixed(2))],
  ]);
}
