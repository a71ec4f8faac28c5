import { expect, test } from "@jest/globals";
import { MOST_SAMPLES, readSamples } from "#formats/samples";

const bytes = (text: string) => new TextEncoder().encode(text);
const refusal = async (text: string, isCsv: boolean): Promise<string> => {
  try {
    await readSamples(bytes(text), isCsv);
    return "read";
  } catch (error) {
    return (error as Error).message;
  }
};
const AT = "2026-11-27T08:00:00Z";

test("samples come as JSON or as a table; what was not measured is left out", async () => {
  const wanted = [
    { series: "link-1/a", at: AT, level0Dbm: -61.5 },
    { series: "weather", at: AT, windMPerS: 4 },
  ];
  expect(await readSamples(bytes(JSON.stringify(wanted)), false)).toEqual(wanted);
  expect(
    await readSamples(bytes(`series,at,level0Dbm,windMPerS\nlink-1/a,${AT},-61.5,\nweather,${AT},,4\n`), true),
  ).toEqual(wanted);
});

test("what cannot be read is told by its place, its field, its bound and what stood there", async () => {
  expect(await refusal("{", false)).toBe("what was sent is no JSON: it ends too soon, in line 1");
  expect(await refusal("{}", false)).toBe("a list of samples was expected, such as [{…}, {…}]");
  expect(await refusal(`[{"series":"a","at":"yesterday"}]`, false)).toBe(
    'sample 1: at must be a moment such as 2026-11-27T08:00:00Z, found "yesterday"',
  );
  expect(await refusal(`series,at,supplyV\na,${AT},24\na,${AT},999\n`, true)).toBe(
    "sample 2: supplyV must be 320 V or less, found 999",
  );
  expect(await refusal(`series,at,supplyV\na,${AT},x\n`, true)).toMatch(/^sample 1: supplyV must be a number in V/);
  expect(await refusal("series,when\n", true)).toBe('a column "at" was expected, found series, when');
  expect(await refusal("series,at,at\n", true)).toBe('the column "at" stands twice');
  expect(await refusal(`series,at\na,${AT},5\n`, true)).toBe("row 2: 3 cells under 2 columns");
  const many = JSON.stringify(Array.from({ length: MOST_SAMPLES + 1 }, () => 0));
  expect(await refusal(many, false)).toMatch(/^50001 samples; at most 50000/);
  expect(await refusal(`[${"{},".repeat(300_000)}{}]`, false)).toBe(
    "what was sent holds over 250000 lists and objects, more than are read",
  );
  expect(await refusal(`series,at${",".repeat(800_000)}`, true)).toMatch(/^800002 cells; at most 700000/);
});
