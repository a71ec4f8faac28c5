import { expect, test } from "@jest/globals";
import { boxHolds } from "#core/radio";

test("a box holds a kind of part everywhere, or where its rules are in force", () => {
  const piece = (kind: string | null, ruleSetIds: string[]) => ({ what: "a piece", count: 1, kind, ruleSetIds });
  const box = [piece("arrester", []), piece("injector", ["us", "world"]), piece(null, [])];
  expect(boxHolds({ box }, "arrester", "eu")).toBe(true);
  expect(boxHolds({ box }, "injector", "us")).toBe(true);
  expect(boxHolds({ box }, "injector", "eu")).toBe(false);
  expect(boxHolds({ box }, "bracket", "us")).toBe(false);
  expect(boxHolds({ box: [] }, "arrester", "eu")).toBe(false);
});
