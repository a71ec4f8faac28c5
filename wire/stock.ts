import { z } from "zod";

const MOST = 1_000_000;
/** One figure of the stock of one item, as it is set. */
export const stockAskSchema = z.object({
  itemId: z.string().min(1).max(200),
  field: z.enum(["inStore", "ordered", "arrived", "packed"]),
  count: z.number().int("must be a whole number").min(0, "must be 0 or more").max(MOST, `must be ${MOST} or less`),
});
export type StockAsk = z.infer<typeof stockAskSchema>;
