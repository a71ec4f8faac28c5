import { expect, test } from "@jest/globals";
import { fromLonLat } from "ol/proj";
import { projectionAround } from "./projection";

test("places on either side of the 180th meridian lie beside each other on a map around it", () => {
  const { project, projectLonLat } = projectionAround(179.9);
  const [x] = project({ latDeg: -17, lonDeg: 179.95 });
  const [beyond, y] = project({ latDeg: -17, lonDeg: -179.95 });
  const perDeg = fromLonLat([1, 0])[0]!;
  expect(beyond! - x!).toBeCloseTo(0.1 * perDeg, 3);
  expect(y).toBeCloseTo(fromLonLat([0, -17])[1]!, 6);
  expect(projectLonLat([-179.95, -17])).toEqual([beyond, y]);
  expect(projectionAround(-30).project({ latDeg: 10, lonDeg: -30.5 })).toEqual(fromLonLat([-30.5, 10]));
});
