/**
 * The lower triangle L of a symmetric positive definite matrix A = L·Lᵀ, row by row (Golub and Van Loan, "Matrix Computations", §4.2). What
 * stands before a row's first figure stays 0 in L too and is passed over: terms of areas hang together with few others.
 */
export function choleskyOf(matrix: Float64Array, n: number): Float64Array {
  const lower = new Float64Array(n * n);
  const first = new Int32Array(n);
  for (let i = 0; i < n; i++) {
    let from = 0;
    while (from < i && matrix[i * n + from] === 0) from++;
    first[i] = from;
    for (let j = from; j <= i; j++) {
      let sum = matrix[i * n + j]!;
      for (let k = Math.max(from, first[j]!); k < j; k++) sum -= lower[i * n + k]! * lower[j * n + k]!;
      lower[i * n + j] = i === j ? Math.sqrt(sum) : sum / lower[j * n + j]!;
    }
  }
  return lower;
}

/** What solves A·x = b where A = L·Lᵀ. */
export function solved(lower: Float64Array, b: Float64Array): Float64Array {
  const n = b.length;
  const x = b.slice();
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) x[i]! -= lower[i * n + k]! * x[k]!;
    x[i]! /= lower[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    x[i]! /= lower[i * n + i]!;
    for (let k = 0; k < i; k++) x[k]! -= lower[i * n + k]! * x[i]!;
  }
  return x;
}

/** The inverse of A = L·Lᵀ: that of L against itself, each walked row by row. */
export function inverseBy(lower: Float64Array, n: number): Float64Array {
  const inner = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let k = 0; k < i; k++) {
      const share = lower[i * n + k]!;
      if (share !== 0) for (let j = 0; j <= k; j++) inner[i * n + j]! -= share * inner[k * n + j]!;
    }
    inner[i * n + i] = 1;
    for (let j = 0; j <= i; j++) inner[i * n + j]! /= lower[i * n + i]!;
  }
  const inverse = new Float64Array(n * n);
  for (let k = 0; k < n; k++)
    for (let i = 0; i <= k; i++) {
      const share = inner[k * n + i]!;
      if (share !== 0) for (let j = 0; j <= i; j++) inverse[i * n + j]! += share * inner[k * n + j]!;
    }
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) inverse[j * n + i] = inverse[i * n + j]!;
  return inverse;
}
