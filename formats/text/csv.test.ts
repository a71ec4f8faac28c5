import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { csvCell, withoutGuard, writeCsv } from "#formats/text";

const guarded = (text: string) => csvCell(text) === `'${text}`;

test("what a spreadsheet may run gets an apostrophe, behind whatever blank it hides", () => {
  for (const text of [
    "=1+1",
    "+cmd",
    "-cmd",
    "@x",
    "\t=1",
    "\r=1",
    " =1",
    "\u00a0=1",
    "\n=1",
    "'=1",
    "\uff1d1",
    "\uff0b1",
  ])
    expect([text, guarded(text)]).toEqual([text, true]);
  for (const text of ["name;=1+1", "name, @x", "a\t=1", "a|=1", "a\n=1", "\ufeff=1"])
    expect([text, guarded(text)]).toEqual([text, true]);
  for (const text of ["-5", "+5.25", "-1,5", "Casa Samira", "a=b", "5 GHz - north", "it's", "'tis"])
    expect([text, guarded(text)]).toEqual([text, false]);
  expect(writeCsv(["a"], [["=HYPERLINK(1)"]])).toBe("a\r\n'=HYPERLINK(1)\r\n");
});

test("what is guarded is read back the same, and what is not stays as it is", () => {
  const nasty = fc.string({
    unit: fc.constantFrom("'", "=", "+", "-", "@", " ", "\t", "\n", "\r", ";", ",", "\uff1d", "a", "1"),
  });
  fc.assert(
    fc.property(fc.oneof(nasty, fc.string()), (text) => withoutGuard(csvCell(text)) === text),
    { numRuns: 2000 },
  );
});
