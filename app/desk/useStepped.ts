import { finished, type Steps } from "#core/steps";
import { startTransition, useEffect, useMemo, useState } from "react";
import { inSlices } from "./inSlices";

/** What stepped work came to. */
interface Stepped<T> {
  value: T;
  /** Whether that is of the work asked for; else of what was asked for before it. */
  isDone: boolean;
}

/**
 * Stepped work done for a page: at once, or where `isGentle` in slices, which are dropped when other work is asked for before they are
 * through. `begin` must stay the same while the work does; null is no work, and `idle` its value.
 */
export function useStepped<T>(begin: (() => Steps<T>) | null, idle: T, isGentle: boolean): Stepped<T> {
  const [last, setLast] = useState<{ begin: unknown; value: T } | null>(null);
  const atOnce = useMemo(() => (begin === null || isGentle ? null : { value: finished(begin()) }), [begin, isGentle]);
  useEffect(() => {
    if (begin === null || !isGentle) return setLast(null);
    // Drawn between two moves of the hand rather than before the next.
    return inSlices(begin(), (value) => startTransition(() => setLast({ begin, value })));
  }, [begin, isGentle]);
  if (begin === null) return { value: idle, isDone: true };
  if (atOnce) return { value: atOnce.value, isDone: true };
  return { value: last?.value ?? idle, isDone: last?.begin === begin };
}
