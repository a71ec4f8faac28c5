import { expect, test } from "@jest/globals";
import { costChangeText, counted, figure, plainFigure, shortFigure, signedFigure } from "#core/words";

test("a figure has a real minus, the decimals asked for, and no sign on nothing", () => {
  expect([figure(-3.14159), figure(2), figure(1234.5678, 2), figure(-0.04), figure(0.04)]).toEqual([
    "−3.1",
    "2.0",
    "1234.57",
    "0.0",
    "0.0",
  ]);
  expect([figure(-0.05, 2), figure(-72, 0)]).toEqual(["−0.05", "−72"]);
});

test("a signed figure says plus as well as minus", () => {
  expect([signedFigure(3.25), signedFigure(-3.26), signedFigure(0), signedFigure(-0.01), signedFigure(7, 0)]).toEqual([
    "+3.3",
    "−3.3",
    "0.0",
    "0.0",
    "+7",
  ]);
});

test("what people type is read with a printed minus, a comma and blanks about it", () => {
  expect(["−72,5", " 12 ", "-3.5", ""].map(plainFigure)).toEqual(["-72.5", "12", "-3.5", ""]);
});

test("a cost is said with its sign, and not where it rounds to nothing", () => {
  expect([89.4, -380, 0, 0.3, -0.3].map(costChangeText)).toEqual(["; +€89", "; −€380", "", "", ""]);
});

test("a figure as it was set has the decimals that it needs", () => {
  expect([27, -5, 13.5, -0.04, 100, 12.25].map(shortFigure)).toEqual(["27", "−5", "13.5", "0", "100", "12.3"]);
});

test("one is one, none and more are many", () => {
  expect([counted(1, "radio"), counted(0, "radio"), counted(3, "radio")]).toEqual(["1 radio", "0 radios", "3 radios"]);
  expect([counted(1, "link is", "links are"), counted(2, "link is", "links are")]).toEqual([
    "1 link is",
    "2 links are",
  ]);
});
