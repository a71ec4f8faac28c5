import {
  classify,
  combined,
  gridOver,
  learnedNoiseOver,
  lossTable,
  newCells,
  placesIn,
  weatherTable,
  withPattern,
  type ClientKit,
  type CoverageCells,
  type CoverageGrid,
  type LossTable,
  type SharedCells,
} from "#core/coverage";
import { climateOf } from "#core/climate";
import { wantedMarginDb, type OwnNoise } from "#core/link";
import type { Radio, Site, World } from "#core/plan";
import { useMemo, useRef } from "react";
import type { Losses } from "./useLosses";

/** What every cell gets of some sectors as they stand in hand. */
export interface Painted {
  cells: SharedCells;
  /** Where the cells lie. */
  grid: CoverageGrid;
  /** The sectors whose losses are here, in the order in which the cells name them. */
  sectors: readonly Radio[];
  /** The first sector's: its steps of rate are the legend's. */
  table: LossTable;
}

/** A sector with all that its cells follow from. */
export interface Covering {
  radio: Radio;
  site: Site;
  kit: ClientKit;
  /** What it hears of the plan's other transmitters. */
  heard: OwnNoise | null;
}

/** What of a radio its tapes toward a customer follow from, its direction apart. */
const TABLE_FIELDS = [
  "txPowerDbm",
  "cableLossDb",
  "antennaModelId",
  "radioModelId",
  "polarization",
  "frequencyMHz",
  "widthMHz",
  "interferenceDb",
  "siteId",
] as const;

/** What one sector's cells are written to, and what of it does not change with its direction. */
interface Room {
  losses: Losses;
  plan: World["plan"];
  tableKey: string;
  table: LossTable;
  /** What was learned of the noise at a customer in each cell. */
  noise: Uint16Array | null;
  frequencyMHz: number;
  cells: CoverageCells;
  totalDb: Float32Array;
}

function roomFor(world: World, { radio, kit, heard }: Covering, losses: Losses, before: Room | undefined): Room {
  const tableKey = JSON.stringify([TABLE_FIELDS.map((field) => radio[field]), kit, heard?.dbm]);
  const isSameTable = before?.tableKey === tableKey && before.plan === world.plan;
  const isSameSize = before?.totalDb.length === losses.bearings.length;
  const { learned } = world.plan;
  const isSameNoise =
    before?.plan.learned === learned &&
    before?.losses.grid === losses.grid &&
    before.frequencyMHz === radio.frequencyMHz;
  return {
    losses,
    plan: world.plan,
    tableKey,
    table: isSameTable ? before.table : lossTable(world, radio, kit, heard),
    noise: isSameNoise ? before.noise : learnedNoiseOver(learned, losses.grid, radio.frequencyMHz / 1000),
    frequencyMHz: radio.frequencyMHz,
    cells: isSameSize ? before.cells : newCells(losses.grid),
    totalDb: isSameSize ? before.totalDb : new Float32Array(losses.bearings.length),
  };
}

/** Lays patterns and tapes over path losses that are here: all that a dragged heading, tilt or power asks for. */
export function useCells(
  world: World,
  coverings: readonly Covering[],
  losses: readonly (Losses | null)[],
): Painted | null {
  const rooms = useRef(new Map<string, Room>());
  return useMemo(() => {
    const next = new Map<string, Room>();
    const sectors: Radio[] = [];
    const { plan } = world;
    coverings.forEach((covering, i) => {
      const own = losses[i];
      if (!own) return;
      const { radio } = covering;
      const room = roomFor(world, covering, own, rooms.current.get(radio.id));
      next.set(radio.id, room);
      sectors.push(radio);
      const { grid } = own;
      const at = {
        antenna: world.antennaModels.get(radio.antennaModelId)!,
        polarization: radio.polarization,
        azimuthDeg: radio.azimuthDeg ?? 0,
        mechanicalTiltDownDeg: radio.tiltDownDeg ?? 0,
      };
      withPattern(own.losses, own.bearings, at, room.totalDb);
      const { rainRate001MmPerH } = climateOf(plan, grid.middle.latDeg);
      const weather = weatherTable(plan, radio, rainRate001MmPerH, grid.rings * grid.cellNorthKm);
      const marginDb = wantedMarginDb(plan, radio.frequencyMHz);
      classify(grid, own.losses, room.totalDb, room.table, weather, marginDb, room.noise, room.cells);
    });
    rooms.current = next;
    const [first] = next.values();
    const all = [...next.values()];
    const grid = gridOver(all.map(({ losses: { grid: own } }) => own));
    if (!first || !grid) return null;
    // Sectors of one site lie alike.
    const places = new Map<CoverageGrid, Int32Array | null>();
    const placesOf = (own: CoverageGrid) => {
      if (!places.has(own)) places.set(own, placesIn(own, grid));
      return places.get(own)!;
    };
    const cells = combined(all.map((one) => ({ cells: one.cells, placeOf: placesOf(one.losses.grid) })));
    return { cells, grid, sectors, table: first.table };
  }, [world, coverings, losses]);
}
