import { expect, test } from "@jest/globals";
import { MOST_SAMPLES, readSamples } from "#formats/samples";

const bytes = (text: string) => new TextEncoder().encode(text);
const refusal = (text: string, isCsv: boolean): string => {
  try {
    readSamples(bytes(text), isCsv);
    return "read";
  } catch (error) {
    return (error as Error).message;
  }
};
const AT = "2026-11-27T08:00:00Z";

test("samples come as JSON or as a table; what was not measured is left out", () => {
  const wanted = [
    { series: "link-1/a", at: AT, level0Dbm: -61.5 },
    { series: "weather", at: AT, windMPerS: 4 },
  ];
  expect(readSamples(bytes(JSON.stringify(wanted)), false)).toEqual(wanted);
  expect(readSamples(bytes(`series,at,level0Dbm,windMPerS\nlink-1/a,${AT},-61.5,\nweather,${AT},,4\n`), true)).toEqual(
    wanted,
  );
});

test("what cannot be read is told by its place, its field, its bound and what stood there", () => {
  expect(refusal("{", false)).toBe("what was sent is no JSON: it ends too soon, in line 1");
  expect(refusal("{}", false)).toBe("a list of samples was expected, such as [{…}, {…}]");
  expect(refusal(`[{"series":"a","at":"yesterday"}]`, false)).toBe(
    'sample 1: at must be a moment such as 2026-11-27T08:00:00Z, found "yesterday"',
  );
  expect(refusal(`series,at,supplyV\na,${AT},24\na,${AT},999\n`, true)).toBe(
    "sample 2: supplyV must be 320 V or less, found 999",
  );
  expect(refusal(`series,at,supplyV\na,${AT},x\n`, true)).toMatch(/^sample 1: supplyV must be a number in V/);
  expect(refusal("series,when\n", true)).toBe('a column "at" was expected, found series, when');
  expect(refusal("series,at,at\n", true)).toBe('the column "at" stands twice');
  expect(refusal(`series,at\na,${AT},5\n`, true)).toBe("row 2: 3 cells under 2 columns");
  const many = JSON.stringify(Array.from({ length: MOST_SAMPLES + 1 }, () => 0));
  expect(refusal(many, false)).toMatch(/^50001 samples; at most 50000/);
});
