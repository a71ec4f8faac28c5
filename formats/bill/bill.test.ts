import { expect, test } from "@jest/globals";
import Papa from "papaparse";
import { billOf } from "#core/bill";
import { writeAddressesCsv, writeOrderCsv } from "#formats/bill";
import { radioIn, valley } from "#core/testing";

const rowsOf = (text: string) => Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data;

test("an order list holds each line of the bill, and what it comes to last", () => {
  const bill = billOf(valley().world);
  const rows = rowsOf(writeOrderCsv(bill));
  expect(rows).toHaveLength(bill.lines.length + 1);
  bill.lines.forEach(({ name, needed, spare, packs, packOf, priceEur }, i) =>
    expect(rows[i]).toMatchObject({
      ...{ item: name, needed: String(needed), spare: String(spare), packs: String(packs), packOf: String(packOf) },
      priceEur: String(Number(priceEur.toFixed(2))),
    }),
  );
  expect(rows.at(-1)).toMatchObject({ item: "sum", priceEur: String(Number(bill.priceEur.toFixed(2))) });
});

test("a list of addresses tells each radio's network, a customer's by his access point's site", () => {
  const { world } = valley(0, (rows) => {
    Object.assign(rows.sites[0]!, { subnet: "10.1.0.0/22", gateway: "10.1.0.1" });
    radioIn(rows, "farm-radio").address = "10.1.2.3";
    radioIn(rows, "east-west").name = "=SUM(A1)";
  });
  const rows = rowsOf(writeAddressesCsv(world));
  expect(rows).toHaveLength(world.radios.size);
  expect(rows.find(({ name }) => name === "farm-radio")).toEqual({
    ...{ name: "farm-radio", address: "10.1.2.3", prefixLength: "22", gateway: "10.1.0.1", at: "farm" },
    ...{ role: "subscriber", radio: "Brisote Vela 5C" },
  });
  // The other site has no network; and no program takes a name for a formula.
  expect(rows.find(({ at }) => at === "east")).toMatchObject({ name: "'=SUM(A1)", prefixLength: "", gateway: "" });
});
