/** Long work cut in steps: whoever drives it may rest after each, and drop it. */
export type Steps<T> = Generator<void, T>;

/** Runs stepped work to its end without a rest. */
export function finished<T>(work: Steps<T>): T {
  for (;;) {
    const { done, value } = work.next();
    if (done) return value;
  }
}
