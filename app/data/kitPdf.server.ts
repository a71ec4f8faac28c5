import { billOf, stockedLines } from "#core/bill";
import type { World } from "#core/plan";
import { configSheet, sheetContext } from "#core/staging";
import { readStaging, readStock, type Store } from "#store";
import { createElement } from "react";
import { format } from "date-fns";
import QRCode from "qrcode";
import { printed } from "./printed.server";

/** What is still to be ordered for a plan. */
export async function orderPdf(store: Store, world: World): Promise<Uint8Array<ArrayBuffer>> {
  const { OrderPdf } = await import("./OrderPdf");
  const stocks = new Map((await readStock(store.db, world.plan.id)).map((stock) => [stock.itemId, stock]));
  const lines = stockedLines(billOf(world), stocks);
  return printed(
    createElement(OrderPdf, { planName: world.plan.name, date: format(new Date(), "d MMMM yyyy"), lines }),
  );
}

/** Labels that one file holds; a page is made of some 30. */
export const MOST_LABELS = 600;

/** Labels for some radios of a plan. The code on each holds the text printed beside it. */
export async function labelsPdf(
  store: Store,
  world: World,
  radioIds: readonly string[],
): Promise<Uint8Array<ArrayBuffer>> {
  const { LabelsPdf } = await import("./LabelsPdf");
  const context = sheetContext(world);
  const notes = await readStaging(store.db, world.plan.id);
  const serials = new Map(
    notes.filter(({ practiceRun }) => practiceRun === null).map(({ radioId, serial }) => [radioId, serial]),
  );
  const labels = await Promise.all(
    radioIds.map(async (id) => {
      const sheet = configSheet(world, id, context);
      const serial = serials.get(id) ?? "";
      const text = [sheet.settings.name, sheet.placeName, sheet.settings.address, serial].join("\n");
      return { sheet, serial, qrPng: await QRCode.toDataURL(text, { margin: 0, scale: 3 }) };
    }),
  );
  return printed(createElement(LabelsPdf, { planName: world.plan.name, labels }));
}
