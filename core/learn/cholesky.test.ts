import { expect, test } from "@jest/globals";
import fc from "fast-check";
import { choleskyOf, inverseBy, solved } from "./cholesky";

/** B·Bᵀ and something on its diagonal: positive definite, with as many zeros as B leaves. */
function definite(figures: readonly number[], n: number): Float64Array {
  const matrix = new Float64Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++)
      for (let k = 0; k < n; k++) matrix[i * n + j]! += figures[i * n + k]! * figures[j * n + k]! + (i === j ? 0.1 : 0);
  return matrix;
}
const times = (matrix: Float64Array, x: Float64Array) =>
  Float64Array.from(x, (_, i) => x.reduce((sum, one, k) => sum + matrix[i * x.length + k]! * one, 0));

test("by hand: 4 2 2 5 is 2 1 2 against itself", () => {
  const lower = choleskyOf(Float64Array.of(4, 2, 2, 5), 2);
  expect([...lower]).toEqual([2, 0, 1, 2]);
  expect([...solved(lower, Float64Array.of(8, 12))]).toEqual([1, 2]);
  expect([...inverseBy(lower, 2)]).toEqual([5 / 16, -2 / 16, -2 / 16, 4 / 16]);
});

test("what is solved solves, and a matrix times its inverse is one, sparse or not", () => {
  const figure = fc.oneof(fc.constant(0), fc.double({ min: -3, max: 3, noNaN: true }));
  const sized = fc
    .integer({ min: 1, max: 7 })
    .chain((n) => fc.tuple(fc.constant(n), fc.array(figure, { minLength: n * n, maxLength: n * n })));
  fc.assert(
    fc.property(sized, ([n, figures]) => {
      const matrix = definite(figures, n);
      const lower = choleskyOf(matrix, n);
      const inverse = inverseBy(lower, n);
      const b = Float64Array.from({ length: n }, (_, i) => i - 1.5);
      const back = times(matrix, solved(lower, b));
      for (let i = 0; i < n; i++) {
        expect(back[i]).toBeCloseTo(b[i]!, 6);
        const unit = Float64Array.from({ length: n }, (_, k) => (k === i ? 1 : 0));
        const column = times(inverse, times(matrix, unit));
        for (let k = 0; k < n; k++) expect(column[k]).toBeCloseTo(unit[k]!, 6);
      }
    }),
  );
});
