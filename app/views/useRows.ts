import { useVirtualizer } from "@tanstack/react-virtual";
import { useEffect, useState } from "react";

/** Rows about the visible ones that are drawn too. */
const OVERSCAN = 4;

/** How many cards fit beside each other in an element, each at least `leastPx` wide. */
function useCardsAcross(element: HTMLElement | null, leastPx: number): number {
  const [across, setAcross] = useState(1);
  useEffect(() => {
    if (!element) return;
    const measure = () => setAcross(Math.max(1, Math.floor(element.clientWidth / leastPx)));
    const watch = new ResizeObserver(measure);
    watch.observe(element);
    measure();
    return () => watch.disconnect();
  }, [element, leastPx]);
  return across;
}

/** Long card pages: only the rows in sight are drawn. `rowPx` is a row's height before it was measured. */
export function useCardRows(count: number, leastPx: number, rowPx: number) {
  const [element, setElement] = useState<HTMLElement | null>(null);
  const across = useCardsAcross(element, leastPx);
  const virtual = useVirtualizer({
    count: Math.ceil(count / across),
    getScrollElement: () => element,
    estimateSize: () => rowPx,
    overscan: OVERSCAN,
  });
  return { setElement, across, virtual };
}

/**
 * Long lists some way down a `page` that scrolls: which lines are drawn, and the room of the others, px. `linePx` is a line's height
 * before it was measured; lines of uneven heights take `measure` and their index.
 */
export function useLines(page: HTMLElement | null, count: number, linePx: number) {
  const [start, setStart] = useState<HTMLElement | null>(null);
  const scrollMargin = start?.offsetTop ?? 0;
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => page,
    estimateSize: () => linePx,
    overscan: OVERSCAN * 3,
    scrollMargin,
  });
  const shown = virtual.getVirtualItems();
  const before = (shown[0]?.start ?? scrollMargin) - scrollMargin;
  const after = virtual.getTotalSize() - ((shown.at(-1)?.end ?? scrollMargin) - scrollMargin);
  return { setStart, shown, before, after: Math.max(0, after), measure: virtual.measureElement };
}
