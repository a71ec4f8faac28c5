import {
  cellBearings,
  gridAround,
  newLosses,
  wedgeOf,
  WEDGES,
  type CellLosses,
  type CoverageGrid,
  type LearnedOver,
} from "#core/coverage";
import type { Place } from "#core/geodesy";
import type { Plan } from "#core/plan";
import { useEffect, useMemo, useRef, useState } from "react";
import { lossesFromWire } from "#wire";
import { request } from "../../../ask/request";

/** What path losses follow from: no pattern, heading, tilt or power. */
export interface LossesAsk {
  middle: Place;
  txHeightM: number;
  rxHeightM: number;
  frequencyGHz: number;
  kFactor: number;
  season: Plan["season"];
  learned: LearnedOver | null;
  radiusM: number;
  cellM: number;
}

/** Path losses of a circle as far as they are here. */
export interface Losses {
  ask: LossesAsk;
  grid: CoverageGrid;
  bearings: Uint16Array;
  losses: CellLosses;
  /** Parts that are here, of `WEDGES`; the object is another one whenever one more is. */
  arrived: number;
}

/** A height that is dragged changes the question many times a second: it waits until that rests, ms. */
const REST_MS = 250;

type Known = ReadonlyMap<string, Losses>;
const NOTHING: Known = new Map();

/** Fetches the parts of one circle's losses; `show` is handed what is there after each. */
async function fetchLosses(
  planId: string,
  question: string,
  signal: AbortSignal,
  show: (losses: Losses) => void,
): Promise<void> {
  const ask = JSON.parse(question) as LossesAsk;
  const grid = gridAround(ask.middle, ask.radiusM, ask.cellM);
  const losses = newLosses(grid);
  const bearings = cellBearings(grid);
  let arrived = 0;
  const fetchWedge = async (wedge: number) => {
    const address = `/plans/${encodeURIComponent(planId)}/coverage`;
    const response = await request(address, { body: { ...ask, wedge }, signal });
    lossesFromWire(await response.arrayBuffer(), grid, wedgeOf(grid, wedge).window, losses);
    arrived++;
    show({ ask, grid, bearings, losses, arrived });
  };
  await Promise.all(Array.from({ length: WEDGES }, (_, wedge) => fetchWedge(wedge)));
}

/**
 * Path losses round some antennas, worked out by the server part by part and shown as they come; `version` is that of the ground. Equal
 * questions are asked once. Those of before stay until the first part of the new ones is here.
 */
export function useLosses(
  planId: string,
  version: string,
  asks: readonly LossesAsk[],
): {
  /** For each question, null until the first part is here. */
  losses: readonly (Losses | null)[];
  arrived: number;
  wanted: number;
  failed: string | null;
  stop: () => void;
  again: () => void;
} {
  const questions = asks.map((ask) => JSON.stringify(ask));
  const key = `${planId} ${version} ${questions.join("\n")}`;
  const [state, setState] = useState({ of: "", known: NOTHING, failed: null as string | null });
  const latest = useRef(state);
  latest.current = state;
  const [stopped, setStopped] = useState("");
  const [tries, setTries] = useState(0);
  const isStopped = stopped === key;
  const scope = `${planId} ${version}`;
  const wantedText = [...new Set(questions)].join("\n");
  useEffect(() => {
    if (wantedText === "" || isStopped) return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      const all = wantedText.split("\n");
      const here = latest.current.of === scope ? latest.current.known : NOTHING;
      for (const question of all.filter((one) => here.get(one)?.arrived !== WEDGES))
        fetchLosses(planId, question, stop.signal, (losses) =>
          setState((before) => {
            // What nobody asks for any more is let go.
            const kept = before.of === scope ? [...before.known].filter(([one]) => all.includes(one)) : [];
            return { of: scope, known: new Map([...kept, [question, losses]]), failed: null };
          }),
        ).catch((error: unknown) => {
          if (!stop.signal.aborted)
            setState((before) => ({ ...before, failed: error instanceof Error ? error.message : String(error) }));
        });
    }, REST_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [planId, scope, wantedText, isStopped, tries]);
  const known = state.of === scope ? state.known : NOTHING;
  const wanted = wantedText === "" ? [] : wantedText.split("\n");
  const shown = useRef<readonly (Losses | null)[]>([]);
  const losses = useMemo(
    () => questions.map((question, i) => known.get(question) ?? shown.current[i] ?? null),
    // The text names the questions, one after another.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [key, known],
  );
  shown.current = losses;
  return {
    losses,
    arrived: wanted.reduce((sum, question) => sum + (known.get(question)?.arrived ?? 0), 0),
    wanted: wanted.length * WEDGES,
    failed: state.failed,
    stop: () => setStopped(key),
    again: () => {
      setStopped("");
      setTries((count) => count + 1);
    },
  };
}
