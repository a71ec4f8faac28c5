import type { Steps } from "#core/steps";

/** Between two slices the page draws, and hears of the hand. */
const SLICE_MS = 8;

/** Drives stepped work in slices, the first once the page has been drawn; gives what drops it. */
export function inSlices<T>(work: Steps<T>, done: (value: T) => void): () => void {
  const slice = () => {
    const until = performance.now() + SLICE_MS;
    do {
      const step = work.next();
      if (step.done) return done(step.value);
    } while (performance.now() < until);
    timer = window.setTimeout(slice);
  };
  let timer = window.setTimeout(slice);
  return () => window.clearTimeout(timer);
}
