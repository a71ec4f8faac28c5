import type { Bill, BillLine } from "./bill";

/** How far the buying of one item has come, in pieces or metres. */
export interface Stock {
  itemId: string;
  /** Lay on the shelf before anything was ordered. */
  inStore: number;
  /** Ordered, arrived or not. */
  ordered: number;
  /** Of what was ordered. */
  arrived: number;
  /** Ready for the car. */
  packed: number;
}

/** A line of the bill with what is left to do about it. */
export interface StockedLine extends BillLine {
  stock: Stock;
  /** Still to be ordered: pieces or metres, the packs that they come in, and their price. */
  leftToOrder: number;
  packsLeft: number;
  leftEur: number;
  /** Ordered, and not there yet. */
  onItsWay: number;
  /** What the plan uses and is not packed yet; spares stay on the shelf. */
  leftToPack: number;
}

export const noStock = (itemId: string): Stock => ({ itemId, inStore: 0, ordered: 0, arrived: 0, packed: 0 });

/** The lines of a bill against what is in store, ordered and packed. */
export function stockedLines({ lines }: Bill, stocks: ReadonlyMap<string, Stock>): StockedLine[] {
  return lines.map((line) => {
    const stock = stocks.get(line.itemId) ?? noStock(line.itemId);
    const leftToOrder = Math.max(0, line.needed + line.spare - stock.inStore - stock.ordered);
    const packsLeft = Math.ceil(leftToOrder / line.packOf);
    return {
      ...line,
      stock,
      leftToOrder,
      packsLeft,
      leftEur: line.packs === 0 ? 0 : (line.priceEur / line.packs) * packsLeft,
      onItsWay: Math.max(0, stock.ordered - stock.arrived),
      leftToPack: Math.max(0, line.needed - stock.packed),
    };
  });
}

/** What cannot be: more arrived than was ordered, or more packed than is there. Null for nothing. */
export function stockProblem({ inStore, ordered, arrived, packed }: Stock): string | null {
  if (arrived > ordered) return `${arrived} arrived, but only ${ordered} were ordered`;
  if (packed > inStore + arrived) return `${packed} packed, but only ${inStore + arrived} are there`;
  return null;
}
