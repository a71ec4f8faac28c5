import { expect, test } from "@jest/globals";
import { JsonMeter } from "#formats/text";

const bytes = (text: string) => new TextEncoder().encode(text);
const BOUNDS = { nested: 3, containers: 5, values: 9, names: 4 };
const take = (text: string) => new JsonMeter(BOUNDS).take(bytes(text));

test("lists, objects, values and different names are counted up to their bounds, whatever their order", () => {
  expect(take("[[[]]]")).toBeNull();
  expect(take("[[[[]]]]")).toBe("holds over 3 lists or objects within one another, more than are read");
  expect(take("[{},[],{},[]]")).toBeNull();
  expect(take("[{},[],{},[],{}]")).toBe("holds over 5 lists and objects, more than are read");
  expect(take("[1,2,3,4,5,6,7,8,9]")).toBeNull();
  expect(take("[1,2,3,4,5,6,7,8,9,10]")).toBe("holds over 9 values, more than are read");
  expect(take('{"a":1,"b":2,"c":3,"d":4,"a":5,"d":6}')).toBeNull();
  expect(take('{"a":1,"b":2,"c":3,"d":4,"e":5}')).toBe("holds over 4 different names of fields, more than are read");
});

test("what stands in a text counts for nothing, quotation marks and backslashes in it included", () => {
  expect(take('["[[[[[{{{{{,,,,,,,,,,,,"]')).toBeNull();
  expect(take('["\\"[[[[","\\\\",[[]]]')).toBeNull();
  expect(take('["\\\\",[[[]]]]')).toMatch(/within one another/);
});

test("a text that arrives in pieces is counted like a whole one, wherever it is cut", () => {
  const text = '{"a\\"":[1,{"b":["x",2]}],"c":"[,\\\\","d":3}';
  const whole = new JsonMeter({ nested: 4, containers: 4, values: 8, names: 4 });
  expect(whole.take(bytes(text))).toBeNull();
  for (let cut = 0; cut <= text.length; cut++)
    for (const [bound, most] of [
      ["nested", 4],
      ["containers", 4],
      ["values", 8],
      ["names", 4],
    ] as const)
      for (const [limit, isOver] of [
        [most, false],
        [most - 1, true],
      ] as const) {
        const meter = new JsonMeter({ nested: 99, containers: 99, values: 99, names: 99, [bound]: limit });
        const told = meter.take(bytes(text.slice(0, cut))) ?? meter.take(bytes(text.slice(cut)));
        expect([cut, bound, told !== null]).toEqual([cut, bound, isOver]);
      }
});
