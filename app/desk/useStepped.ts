import { finished } from "#core/evaluate";
import { useEffect, useMemo, useState } from "react";

/** What stepped work came to. */
export interface Stepped<T> {
  value: T;
  /** Whether that is of the work asked for; else of what was asked for before it. */
  isDone: boolean;
}

/** Between two slices the page draws, and hears of the hand. */
const SLICE_MS = 12;

/**
 * Stepped work done for a page: at once, or where `isGentle` in slices, which are dropped when other work is asked for before they are
 * through. `begin` must stay the same while the work does; null is no work, and `idle` its value.
 */
export function useStepped<T>(begin: (() => Generator<void, T>) | null, idle: T, isGentle: boolean): Stepped<T> {
  const [last, setLast] = useState<{ begin: unknown; value: T } | null>(null);
  const atOnce = useMemo(() => (begin === null || isGentle ? null : { value: finished(begin()) }), [begin, isGentle]);
  useEffect(() => {
    if (begin === null || !isGentle) return setLast(null);
    const work = begin();
    let timer: number | undefined;
    const slice = () => {
      const until = performance.now() + SLICE_MS;
      do {
        const step = work.next();
        if (step.done) return setLast({ begin, value: step.value });
      } while (performance.now() < until);
      timer = window.setTimeout(slice);
    };
    // Not at once: this runs when the page has just been drawn, and what was drawn is to be seen first.
    timer = window.setTimeout(slice);
    return () => window.clearTimeout(timer);
  }, [begin, isGentle]);
  if (begin === null) return { value: idle, isDone: true };
  if (atOnce) return { value: atOnce.value, isDone: true };
  return { value: last?.value ?? idle, isDone: last?.begin === begin };
}
