import { billOf, stockedLines } from "#core/bill";
import type { World } from "#core/plan";
import { FAMILIES, GENERAL } from "#core/procedures";
import { configSheet, sheetContext } from "#core/staging";
import { readStaging, readStock, type Store } from "#store";
import { format } from "date-fns";
import { printed } from "./press.server";

/** What is still to be ordered for a plan. */
export async function orderPdf(store: Store, world: World): Promise<Uint8Array<ArrayBuffer>> {
  const stocks = new Map((await readStock(store.db, world.plan.id)).map((stock) => [stock.itemId, stock]));
  const lines = stockedLines(billOf(world), stocks);
  return printed("order", { planName: world.plan.name, date: format(new Date(), "d MMMM yyyy"), lines });
}

/** How kit goes together: what ships, then the plan's own. */
export function proceduresPdf(world: World): Promise<Uint8Array<ArrayBuffer>> {
  const procedures = [GENERAL, ...FAMILIES, ...world.procedures.values()];
  return printed("procedures", { planName: world.plan.name, procedures });
}

/** Devices that one file of sheets or labels holds. A page holds some 30 labels, or six sheets. */
export const MOST_PRINTED = 600;

/** What some radios of a plan are to be set to. */
export function sheetsPdf(world: World, radioIds: readonly string[]): Promise<Uint8Array<ArrayBuffer>> {
  const context = sheetContext(world);
  const sheets = radioIds.map((id) => configSheet(world, id, context));
  return printed("sheets", { planName: world.plan.name, sheets });
}

/** Labels for some radios of a plan. The code on each holds the text printed beside it. */
export async function labelsPdf(
  store: Store,
  world: World,
  radioIds: readonly string[],
): Promise<Uint8Array<ArrayBuffer>> {
  const context = sheetContext(world);
  const notes = await readStaging(store.db, world.plan.id);
  const serials = new Map(
    notes.filter(({ practiceRun }) => practiceRun === null).map(({ radioId, serial }) => [radioId, serial]),
  );
  const labels = radioIds.map((id) => ({ sheet: configSheet(world, id, context), serial: serials.get(id) ?? "" }));
  return printed("labels", { planName: world.plan.name, labels });
}
