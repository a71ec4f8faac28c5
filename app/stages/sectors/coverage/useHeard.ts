import { COVERAGE_REASONS, HeardField } from "#core/coverage";
import type { Patch } from "#core/plan";
import { useCallback, useEffect, useRef, useState } from "react";
import { useDesk } from "../../../desk/DeskContext";
import { request } from "../../../ask/request";
import type { Room } from "./useCells";

/** A drag asks many times a second: what is heard waits until that rests, ms. */
const REST_MS = 150;
/** Cells of one question: several travel beside each other. */
const CELLS_EACH = 1500;

/** Fields of a sector that nobody of its customers hears: they look at it wherever it looks. */
const OWN_FIELDS = new Set(["azimuthDeg", "tiltDownDeg", "txPowerDbm", "name", "bracketTurned"]);

/** The parts of the change in hand that alter what a sector's customers hear. */
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
  laidOut: Float32Array;
}

async function askCells(planId: string, body: object, cells: readonly number[], signal: AbortSignal) {
  const address = `/plans/${encodeURIComponent(planId)}/cells-hear`;
  const response = await request(address, { body: { ...body, cells }, signal });
  return new Float32Array(await response.arrayBuffer());
}

/** The inputs that decide which cells are asked about: the circle, and which cells would be served without interference. */
const signatureOf = ({ covering: { radio, kit }, losses, tableKey }: Room) => [
  ...[radio.id, radio.azimuthDeg, radio.tiltDownDeg, radio.bracketTurned],
  ...[kit, losses.ask, losses.arrived, tableKey],
];

/** Of many sectors at once each is asked less closely, so that nobody waits for minutes. */
const MANY_SECTORS = 8;

interface Known {
  heard: ReadonlyMap<string, Float32Array>;
  isWhole: boolean;
  failed: string | null;
}

/**
 * What a customer would hear of the plan's other transmitters in each cell that is served but for them, dBm by sector: asked coarsely
 * first, and more closely where neighbours hear different things; shown as it comes. `isWhole` says whether nothing more is asked. `look` is told of
 * the cells whenever they are classified anew.
 */
export function useHeard(): Known & { look: (rooms: ReadonlyMap<string, Room>) => void } {
  const { data, draft } = useDesk();
  const planId = data.world.plan.id;
  const fields = useRef(new Map<string, Heard>());
  const latest = useRef<ReadonlyMap<string, Room>>(new Map());
  const [signature, setSignature] = useState("");
  const [state, setState] = useState<Known>({ heard: new Map(), isWhole: false, failed: null });
  const look = useCallback((rooms: ReadonlyMap<string, Room>) => {
    latest.current = rooms;
    setSignature(JSON.stringify([...rooms.values()].map(signatureOf)));
  }, []);
  const { patches } = draft;
  const { revision } = data;
  useEffect(() => {
    const rooms = latest.current;
    if (rooms.size === 0) return;
    const stop = new AbortController();
    const show = (isWhole: boolean) => {
      const heard = new Map([...fields.current].map(([id, { laidOut }]) => [id, laidOut]));
      setState({ heard, isWhole, failed: null });
    };
    const ask = async () => {
      for (const id of fields.current.keys()) if (!rooms.has(id)) fields.current.delete(id);
      for (const [radioId, { covering, losses, cells, thermalDbm }] of rooms) {
        const { radio, kit } = covering;
        const { middle, radiusM, cellM } = losses.ask;
        const body = { radioId, kit, middle, radiusM, cellM, patches: heardPatches(patches, radioId) };
        const asHeard = Object.entries(radio).filter(([field]) => !OWN_FIELDS.has(field));
        const key = JSON.stringify([planId, revision, body, asHeard]);
        const before = fields.current.get(radioId);
        const field =
          before?.key === key ? before.field : new HeardField(losses.grid, thermalDbm, rooms.size > MANY_SECTORS);
        const isWanted = (cell: number) => cells.reason[cell] === HELD || cells.reason[cell] === NOISE;
        const layOut = () => fields.current.set(radioId, { key, field, laidOut: field.laidOut(isWanted) });
        layOut();
        for (let asked = field.asked(isWanted); asked.length > 0; asked = field.asked(isWanted)) {
          const parts = Array.from({ length: Math.ceil(asked.length / CELLS_EACH) }, (_, i) =>
            asked.slice(i * CELLS_EACH, (i + 1) * CELLS_EACH),
          );
          const answers = await Promise.all(parts.map((part) => askCells(planId, body, part, stop.signal)));
          parts.forEach((part, i) => field.take(part, answers[i]!));
          layOut();
          show(false);
        }
      }
      show(true);
    };
    setState((shown) => ({ ...shown, isWhole: false, failed: null }));
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
  }, [planId, revision, patches, signature]);
  return { ...state, look };
}
