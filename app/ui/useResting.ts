import { startTransition, useEffect, useState } from "react";

/**
 * A value once it has stood for `restMs`; without any rest, and where `isEmpty`, at once. What takes long to work out of something that
 * is being dragged is worked out when the hand pauses, and drawn between its next moves: the drag itself stays fluid.
 */
export function useResting<T>(value: T, restMs: number, isEmpty: boolean): T {
  const [rested, setRested] = useState(value);
  const isAtOnce = restMs === 0 || isEmpty;
  useEffect(() => {
    if (isAtOnce) return setRested(value);
    const timer = setTimeout(() => startTransition(() => setRested(value)), restMs);
    return () => clearTimeout(timer);
  }, [value, restMs, isAtOnce]);
  return isAtOnce ? value : rested;
}
