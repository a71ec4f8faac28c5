import { COVERAGE_REASONS, HeardField } from "#core/coverage";
import type { Patch } from "#core/plan";
import { useEffect, useRef, useState } from "react";
import { useDesk } from "../desk/DeskContext";
import { said } from "../work/said";
import type { Room } from "./useCells";

/** A drag asks many times a second: what is heard waits until that rests, ms. */
const REST_MS = 150;
/** Cells of one question: several travel beside each other. */
const CELLS_EACH = 1500;

/** Fields of a sector that nobody of its customers hears: they look at it wherever it looks. */
const OWN_FIELDS = new Set(["azimuthDeg", "tiltDownDeg", "txPowerDbm", "name", "bracketTurned"]);

/** The change in hand as far as a sector's customers can hear it. */
const heardPatches = (patches: readonly Patch[], radioId: string) =>
  patches.filter(
    ({ kind, id, set }) =>
      !(kind === "radios" && id === radioId && set && Object.keys(set).every((field) => OWN_FIELDS.has(field))),
  );

const HELD = COVERAGE_REASONS.indexOf("held");
const NOISE = COVERAGE_REASONS.indexOf("noise");

/** What is known of one sector's customers. */
interface Heard {
  /** What it follows from. */
  key: string;
  field: HeardField;
  laidOut: Float32Array | null;
}

async function askCells(planId: string, body: object, cells: readonly number[], signal: AbortSignal) {
  const response = await fetch(`/plans/${encodeURIComponent(planId)}/cells-hear`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ ...body, cells }),
    signal,
  });
  if (!response.ok) throw new Error(await said(response));
  return new Float32Array(await response.arrayBuffer());
}

/**
 * What a customer would hear of the plan's other transmitters in each cell that is served but for them, dBm by sector: asked coarsely
 * first, and more closely where neighbours hear different things. `isWhole` says whether nothing more is asked.
 */
export function useHeard(): {
  heard: ReadonlyMap<string, Float32Array>;
  isWhole: boolean;
  failed: string | null;
  /** Told of the cells whenever they are classified anew. */
  look: (rooms: ReadonlyMap<string, Room>) => void;
} {
  const { data, draft } = useDesk();
  const planId = data.world.plan.id;
  const known = useRef(new Map<string, Heard>());
  const [rooms, look] = useState<ReadonlyMap<string, Room>>(NONE);
  const [state, setState] = useState<{
    heard: ReadonlyMap<string, Float32Array>;
    isWhole: boolean;
    failed: string | null;
  }>({
    ...{ heard: new Map(), isWhole: false, failed: null },
  });
  const { patches } = draft;
  const { revision } = data;
  useEffect(() => {
    if (rooms.size === 0) return;
    const stop = new AbortController();
    const ask = async () => {
      let isAsked = false;
      for (const id of known.current.keys()) if (!rooms.has(id)) known.current.delete(id);
      for (const [radioId, { covering, losses, cells, thermalDbm }] of rooms) {
        const { radio, kit } = covering;
        const { middle, radiusM, cellM } = losses.ask;
        const body = { radioId, kit, middle, radiusM, cellM, patches: heardPatches(patches, radioId) };
        const { azimuthDeg: _azimuth, tiltDownDeg: _tilt, txPowerDbm: _power, ...radioHeard } = radio;
        const key = JSON.stringify([planId, revision, body, radioHeard]);
        const before = known.current.get(radioId);
        const own =
          before?.key === key ? before : { key, field: new HeardField(losses.grid, thermalDbm), laidOut: null };
        known.current.set(radioId, own);
        const isWanted = (cell: number) => cells.reason[cell] === HELD || cells.reason[cell] === NOISE;
        const wanted = own.field.asked(isWanted);
        if (wanted.length === 0) {
          const laidOut = own.field.laidOut(isWanted);
          if (!own.laidOut || laidOut.some((dbm, cell) => !Object.is(dbm, own.laidOut![cell]))) own.laidOut = laidOut;
          continue;
        }
        isAsked = true;
        setState((shown) => (shown.isWhole ? { ...shown, isWhole: false } : shown));
        const parts = Array.from({ length: Math.ceil(wanted.length / CELLS_EACH) }, (_, i) =>
          wanted.slice(i * CELLS_EACH, (i + 1) * CELLS_EACH),
        );
        const answers = await Promise.all(parts.map((part) => askCells(planId, body, part, stop.signal)));
        parts.forEach((part, i) => own.field.take(part, answers[i]!));
        own.laidOut = own.field.laidOut(isWanted);
      }
      const heard = new Map(
        [...known.current].flatMap(([id, { laidOut }]) => (laidOut ? [[id, laidOut] as const] : [])),
      );
      setState((shown) => {
        const isSame =
          shown.heard.size === heard.size && [...heard].every(([id, field]) => shown.heard.get(id) === field);
        return isSame && shown.isWhole === !isAsked && shown.failed === null
          ? shown
          : { heard: isSame ? shown.heard : heard, isWhole: !isAsked, failed: null };
      });
    };
    const timer = setTimeout(() => {
      ask().catch((error: unknown) => {
        if (!stop.signal.aborted)
          setState((shown) => ({ ...shown, failed: error instanceof Error ? error.message : String(error) }));
      });
    }, REST_MS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [planId, revision, patches, rooms]);
  return { ...state, look };
}
const NONE: ReadonlyMap<string, Room> = new Map();
