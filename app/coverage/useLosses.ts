import {
  cellBearings,
  gridAround,
  newLosses,
  wedgeOf,
  WEDGES,
  type CellLosses,
  type CoverageGrid,
} from "#core/coverage";
import type { Place } from "#core/geodesy";
import { useEffect, useState } from "react";
import { lossesFromWire } from "#wire";

/** What path losses follow from: no pattern, heading, tilt or power. */
export interface LossesAsk {
  middle: Place;
  txHeightM: number;
  rxHeightM: number;
  frequencyGHz: number;
  kFactor: number;
  radiusM: number;
  cellM: number;
}

/** Path losses of a circle as far as they are here. */
export interface Losses {
  grid: CoverageGrid;
  bearings: Uint16Array;
  losses: CellLosses;
  /** Parts that are here, of `WEDGES`; the object is another one whenever one more is. */
  arrived: number;
  /** What was asked for it. */
  key: string;
}

/** A height that is dragged changes the question many times a second: it waits until that rests, ms. */
const REST_MS = 250;

/**
 * Path losses round an antenna, worked out by the server part by part and shown as they come; `version` is that of the ground. Those of
 * before stay until the first part of the new ones is here.
 */
export function useLosses(
  planId: string,
  version: string,
  ask: LossesAsk | null,
): { losses: Losses | null; isStale: boolean; failed: string | null; stop: () => void; again: () => void } {
  const [state, setState] = useState<{ losses: Losses | null; failed: string | null }>({ losses: null, failed: null });
  const [stopped, setStopped] = useState("");
  const [tries, setTries] = useState(0);
  const question = ask && JSON.stringify(ask);
  const key = `${planId} ${version} ${question ?? ""}`;
  const isStopped = stopped === key;
  useEffect(() => {
    if (!question || isStopped) return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      const { middle, radiusM, cellM } = JSON.parse(question) as LossesAsk;
      const grid = gridAround(middle, radiusM, cellM);
      const losses = newLosses(grid);
      const bearings = cellBearings(grid);
      let arrived = 0;
      const fetchWedge = async (wedge: number) => {
        const response = await fetch(`/plans/${encodeURIComponent(planId)}/coverage`, {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify({ ...(JSON.parse(question) as LossesAsk), wedge }),
          signal: stop.signal,
        });
        if (!response.ok) throw new Error(await response.text());
        lossesFromWire(await response.arrayBuffer(), grid, wedgeOf(grid, wedge).window, losses);
        arrived++;
        setState({ losses: { grid, bearings, losses, arrived, key }, failed: null });
      };
      Promise.all(Array.from({ length: WEDGES }, (_, wedge) => fetchWedge(wedge))).catch((error: unknown) => {
        if (!stop.signal.aborted)
          setState((before) => ({ ...before, failed: error instanceof Error ? error.message : String(error) }));
      });
    }, REST_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [planId, question, key, isStopped, tries]);
  const isWhole = state.losses?.key === key && state.losses.arrived === WEDGES;
  return {
    losses: state.losses,
    isStale: question !== null && !isWhole,
    failed: state.failed,
    stop: () => setStopped(key),
    again: () => {
      setStopped("");
      setTries((count) => count + 1);
    },
  };
}
