import { expect, test } from "@jest/globals";
import { acceptText } from "../shared/acceptText";
import { euros, formatsFor, freeSight } from "./format";

test("lengths are told in the units that a person chose", () => {
  const metric = formatsFor({ units: "metric", coordinates: "decimal" });
  expect([metric.height(13.5), metric.height(13.46, 0), metric.height(-2.25)]).toEqual(["13.5 m", "13 m", "−2.3 m"]);
  expect([metric.distance(999.4), metric.distance(12_242)]).toEqual(["999 m", "12.24 km"]);
  expect([metric.roughDistance(8_640), metric.roughDistance(12_642)]).toEqual(["8.6 km", "13 km"]);
  const imperial = formatsFor({ units: "imperial", coordinates: "decimal" });
  expect([imperial.height(30.48), imperial.height(-0.1)]).toEqual(["100 ft", "0 ft"]);
  expect([imperial.distance(1609.344), imperial.distance(100)]).toEqual(["1.00 mi", "0.06 mi"]);
  expect(imperial.roughDistance(20_000)).toBe("12 mi");
});

test("money is whole, in thousands, with a real minus", () => {
  expect([euros(1257.4), euros(-89.6), euros(1_234_567)]).toEqual(["€1,257", "−€90", "€1,234,567"]);
});

test("the band of accepted levels stands weaker first and says where overload ends it", () => {
  expect(acceptText({ fromDbm: -57, toDbm: -49, endsAtOverload: false })).toBe("−57.0 to −49.0");
  expect(acceptText({ fromDbm: -35.04, toDbm: -30, endsAtOverload: true })).toBe(
    "−35.0 to −30.0 (more overloads the receiver)",
  );
});

test("a distance in free sight is not told beyond any horizon", () => {
  expect(freeSight(42.4)).toBe("42 km");
  expect(freeSight(100)).toBe("100 km");
  expect(freeSight(684)).toBe("over 100 km");
});
