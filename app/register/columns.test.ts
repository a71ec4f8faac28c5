import { expect, test } from "@jest/globals";
import { valley } from "#core/testing";
import { COLUMNS, cellText, withCell, type RegisterKind } from "./columns";

const { rows } = valley();
const column = (kind: RegisterKind, key: string) => COLUMNS[kind].find((one) => one.key === key)!;
const set = (key: string, typed: string) =>
  withCell("subscribers", rows.subscribers[0]!, column("subscribers", key), typed);

test("every column reads and takes back what it shows", () => {
  for (const kind of ["subscribers", "sites"] as const)
    for (const row of rows[kind])
      for (const one of COLUMNS[kind]) expect(withCell(kind, row, one, cellText(row, one))).toEqual(row);
});

test("cells are typed as people type them", () => {
  expect(set("demandMbps", " 12,5 ")).toMatchObject({ demandMbps: 12.5 });
  expect(set("latDeg", "−1.25")).toMatchObject({ latDeg: -1.25 });
  expect(set("status", "Surveyed")).toMatchObject({ status: "surveyed" });
  expect(withCell("sites", rows.sites[1]!, column("sites", "isFeed"), "yes")).toMatchObject({ isFeed: true });
});

test("a cell that cannot be is refused with the row's name, the column and what was typed", () => {
  expect(set("people", "many")).toMatch(/^farm: People "many" is not a number$/);
  expect(set("people", "0")).toMatch(/^farm: People "0" must be at least 1$/);
  expect(set("mount", "tree")).toMatch(/^farm: Mount "tree" must be one of roof, pole, wall, window$/);
  expect(set("name", " ")).toMatch(/needs a name/);
  expect(set("antennaHeightM", "20")).toBe("farm: 20 m is above the greatest height, 12 m");
});
