import { noStock, type Stock } from "#core/bill";
import type { Queries } from "./db";

const COLUMNS = { inStore: "in_store", ordered: "ordered", arrived: "arrived", packed: "packed" } as const;
export type StockField = keyof typeof COLUMNS;
export const STOCK_FIELDS = Object.keys(COLUMNS) as StockField[];

const READ = `SELECT item_id AS "itemId", in_store AS "inStore", ordered, arrived, packed FROM stock`;

/** What is in store, ordered and packed for a plan. */
export async function readStock(db: Queries, planId: string): Promise<Stock[]> {
  const { rows } = await db.query<Stock>(`${READ} WHERE plan_id = $1 ORDER BY item_id`, [planId]);
  return rows;
}

/** What is in store of one item; nothing where nobody has said so. Held until the transaction ends. */
export async function stockOf(tx: Queries, planId: string, itemId: string): Promise<Stock> {
  const { rows } = await tx.query<Stock>(`${READ} WHERE plan_id = $1 AND item_id = $2 FOR UPDATE`, [planId, itemId]);
  return rows[0] ?? noStock(itemId);
}

/** Puts one figure of one item; the others stay, so that two people may count at the same time. */
export async function putStock(
  tx: Queries,
  planId: string,
  itemId: string,
  field: StockField,
  count: number,
): Promise<void> {
  const column = COLUMNS[field];
  await tx.query(
    `INSERT INTO stock (plan_id, item_id, ${column}) VALUES ($1, $2, $3)
     ON CONFLICT (plan_id, item_id) DO UPDATE SET ${column} = EXCLUDED.${column}, changed = EXCLUDED.changed`,
    [planId, itemId, count],
  );
}
