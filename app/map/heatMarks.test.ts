import { expect, test } from "@jest/globals";
import { gradeOf, HEAT_GRADES, HEAT_WORDS, heatMarkSvg } from "./heatMarks";

test("grades follow the state first and the share of the zone second", () => {
  expect(gradeOf({ state: "clear", share: 1.4 })).toBe("whole");
  expect(gradeOf({ state: "clear", share: 0.7 })).toBe("clear");
  expect(gradeOf({ state: "tight", share: 0.3 })).toBe("tight");
  expect(gradeOf({ state: "blocked", share: -0.4 })).toBe("cut");
  expect(gradeOf({ state: "blocked", share: -8 })).toBe("deep");
  expect(gradeOf({ state: "unknown", share: null })).toBe("deep");
});

test("every grade has a word and a mark of its own, told apart without colour", () => {
  const plain = (grade: (typeof HEAT_GRADES)[number]) => heatMarkSvg(grade, () => "black");
  expect(new Set(HEAT_GRADES.map(plain)).size).toBe(HEAT_GRADES.length);
  expect(new Set(HEAT_GRADES.map((grade) => HEAT_WORDS[grade])).size).toBe(HEAT_GRADES.length);
});
