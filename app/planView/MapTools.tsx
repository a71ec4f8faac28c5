import { densityCells, type DensityCell } from "#core/survey";
import { counted } from "#core/words";
import { patchBetween, type Area } from "#core/plan";
import { Grid3x3, Pencil } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useCallback, useMemo, useState, type ReactNode } from "react";
import { useRevalidator } from "react-router";
import { toast } from "sonner";
import { keepPatches } from "../keep/keepPatches";
import type { MapArea, Outlining, Ring } from "../map/types";
import { Button } from "../ui";
import { useDesk } from "../desk/DeskContext";

/** What is drawn by hand, and how high it usually is. */
const DRAWN: { kind: Area["kind"]; heightM: number; word: string }[] = [
  { kind: "wood", heightM: 14, word: "a wood" },
  { kind: "windbreak", heightM: 7, word: "a windbreak" },
  { kind: "building", heightM: 8, word: "a building" },
  { kind: "open", heightM: 0, word: "cleared ground" },
];
const NO_CELLS: DensityCell[] = [];
const SQUARE_DEG = 0.001;
const LEAST_CORNERS = 3;
/** How far an outline is. */
const cornersWords = (count: number): string => (count === 0 ? "Click the corners" : counted(count, "corner"));
const rounded = (deg: number) => Math.round(deg * 1e6) / 1e6;

interface GroundTools {
  areas: MapArea[];
  overlays: string[];
  density: DensityCell[];
  outlining: Outlining | null;
  onReshaped: (id: string, rings: Ring[]) => void;
  tools: ReactNode;
}

/** The map's ground: outlines that are drawn and reshaped by hand, own overlays, and how dense customers are. */
export function useGroundTools(canDraw: boolean): GroundTools {
  const { data, world, select } = useDesk();
  const { revalidate } = useRevalidator();
  const [drawing, setDrawing] = useState<Area["kind"] | null>(null);
  const [corners, setCorners] = useState<{ count: number; finish: () => void } | null>(null);
  const [dense, setDense] = useState(false);
  const planId = world.plan.id;
  const areas = useMemo(
    () => [...world.areas.values()].map(({ id, name, kind, rings }): MapArea => ({ id, name, kind, rings })),
    [world.areas],
  );
  const overlays = useMemo(
    () => [...world.overlays.values()].filter(({ shown }) => shown).map(({ geojson }) => geojson),
    [world.overlays],
  );
  const density = useMemo(
    () => (dense ? densityCells(world.subscribers.values()) : NO_CELLS),
    [dense, world.subscribers],
  );
  const put = useCallback(
    async (row: Area, what: string) => {
      const patch = patchBetween("areas", world.areas.get(row.id), row);
      if (!patch) return;
      const { ok, message } = await keepPatches(planId, data.revision, [patch], what);
      if (ok) toast(`${what}. Undo takes it back.`);
      else toast.error(message, { duration: 12_000 });
      await revalidate();
      if (ok) select({ kind: "area", id: row.id });
    },
    [planId, data.revision, world.areas, revalidate, select],
  );
  /** The way without a pointer: a square of a hundred metres in the middle of the terrain, to be typed into place. */
  const typed = () => {
    const [west, south, east, north] = data.terrain?.extent ?? [0, 0, 0, 0];
    const lat = rounded((south + north) / 2);
    const lon = rounded((west + east) / 2);
    const ring: Ring = [
      [lon, lat],
      [rounded(lon + SQUARE_DEG), lat],
      [rounded(lon + SQUARE_DEG), rounded(lat + SQUARE_DEG)],
      [lon, rounded(lat + SQUARE_DEG)],
      [lon, lat],
    ];
    void put(
      { id: crypto.randomUUID(), planId, name: "", kind: "wood", heightM: 14, density: 1, rings: [ring] },
      "Put a square",
    );
  };
  const begin = (kind: Area["kind"] | null) => {
    setCorners(null);
    setDrawing(kind);
  };
  const onDrawn = useCallback(
    (ring: Ring) => {
      const usual = DRAWN.find(({ kind }) => kind === drawing)!;
      setDrawing(null);
      const row: Area = {
        id: crypto.randomUUID(),
        planId,
        name: "",
        kind: usual.kind,
        heightM: usual.heightM,
        density: 1,
        rings: [ring],
      };
      void put(row, `Drew ${usual.word}`);
    },
    [drawing, planId, put],
  );
  const outlining = useMemo<Outlining>(
    () => ({ onCorners: (count, finish) => setCorners({ count, finish }), onDrawn }),
    [onDrawn],
  );
  const onReshaped = useCallback(
    (id: string, rings: Ring[]) => {
      const area = world.areas.get(id);
      if (area) void put({ ...area, rings }, `Reshaped ${area.name || area.kind}`);
    },
    [world.areas, put],
  );
  const tools = canDraw && (
    <>
      <Button
        aria-pressed={dense}
        onClick={() => setDense(!dense)}
        className={dense ? "border-clay text-clay" : ""}
        title="Customers per square kilometre"
      >
        <Grid3x3 size={15} aria-hidden="true" /> Density
      </Button>
      {drawing ? (
        <>
          <span role="status" className="rounded bg-panel px-2 py-1 text-sm whitespace-nowrap text-clay">
            {cornersWords(corners?.count ?? 0)}
          </span>
          <Button disabled={(corners?.count ?? 0) < LEAST_CORNERS} onClick={corners?.finish}>
            Finish outline
          </Button>
          <Button onClick={() => begin(null)}>Cancel</Button>
        </>
      ) : (
        <DropdownMenu.Root>
          <DropdownMenu.Trigger asChild>
            <Button>
              <Pencil size={15} aria-hidden="true" /> Draw
            </Button>
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content align="end" className="z-50 rounded border border-rule bg-panel p-1 shadow-lg">
              <DropdownMenu.Item
                onSelect={typed}
                className="cursor-pointer rounded px-2 py-1 text-sm outline-none data-[highlighted]:bg-ground data-[highlighted]:text-clay"
              >
                A square, its corners to be typed
              </DropdownMenu.Item>
              {DRAWN.map(({ kind, word }) => (
                <DropdownMenu.Item
                  key={kind}
                  onSelect={() => begin(kind)}
                  className="cursor-pointer rounded px-2 py-1 text-sm outline-none data-[highlighted]:bg-ground data-[highlighted]:text-clay"
                >
                  Draw {word}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      )}
    </>
  );
  return { areas, overlays, density, outlining: drawing ? outlining : null, onReshaped, tools };
}
