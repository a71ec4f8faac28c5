/** Runs a generator to its end without a rest. */
export function finished<T>(work: Generator<void, T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}
