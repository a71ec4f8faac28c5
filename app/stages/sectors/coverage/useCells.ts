import {
  classify,
  combined,
  gridOver,
  downRise,
  learnedNoiseOver,
  lossTable,
  newCells,
  placesIn,
  sectorRiseDb,
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
  /** Each sector's own cells, by its id. */
  rooms: ReadonlyMap<string, Room>;
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
export interface Room {
  covering: Covering;
  losses: Losses;
  plan: World["plan"];
  tableKey: string;
  table: LossTable;
  /** Thermal noise at a customer, dBm. */
  thermalDbm: number;
  /** What was learned of the noise at a customer in each cell, what he hears there, and both as a rise. */
  learnedDb: Float32Array | null;
  heardDbm: Float32Array | null;
  riseDb: Float32Array | null;
  frequencyMHz: number;
  cells: CoverageCells;
  totalDb: Float32Array;
}

function roomFor(
  world: World,
  covering: Covering,
  losses: Losses,
  heard: Float32Array | undefined,
  before: Room | undefined,
): Room {
  const { radio, kit } = covering;
  const tableKey = JSON.stringify([TABLE_FIELDS.map((field) => radio[field]), kit]);
  const isSameTable = before?.tableKey === tableKey && before.plan === world.plan;
  const cellCount = losses.bearings.length;
  const isSameSize = before?.totalDb.length === cellCount;
  const { learned } = world.plan;
  const isSameLearned =
    before?.plan.learned === learned &&
    before?.losses.grid === losses.grid &&
    before.frequencyMHz === radio.frequencyMHz;
  const table = isSameTable ? before.table : lossTable(world, radio, kit);
  const learnedDb = isSameLearned
    ? before.learnedDb
    : learnedNoiseOver(learned, losses.grid, radio.frequencyMHz / 1000);
  const heardDbm = heard?.length === cellCount ? heard : null;
  const isSameRise = isSameTable && before.heardDbm === heardDbm && before.learnedDb === learnedDb;
  return {
    ...{ covering, losses, plan: world.plan, tableKey, table, learnedDb, heardDbm },
    thermalDbm: table.downNoise.dbm - table.downNoise.riseDb,
    riseDb: isSameRise ? before.riseDb : downRise(table.downNoise, learnedDb, heardDbm),
    frequencyMHz: radio.frequencyMHz,
    cells: isSameSize ? before.cells : newCells(losses.grid),
    totalDb: isSameSize ? before.totalDb : new Float32Array(cellCount),
  };
}

/** Lays patterns and tapes over path losses that are here: all that a dragged heading, tilt or power asks for. */
export function useCells(
  world: World,
  coverings: readonly Covering[],
  losses: readonly (Losses | null)[],
  /** What a customer hears in each cell of a sector, dBm, as far as it is known. */
  heardIn: ReadonlyMap<string, Float32Array>,
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
      const room = roomFor(world, covering, own, heardIn.get(radio.id), rooms.current.get(radio.id));
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
      const upRiseDb = sectorRiseDb(world, radio, room.table, covering.heard);
      const noise = { downRiseDb: room.riseDb, upRiseDb };
      classify(grid, own.losses, room.totalDb, room.table, weather, marginDb, noise, room.cells);
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
    return { cells, grid, sectors, table: first.table, rooms: next };
  }, [world, coverings, losses, heardIn]);
}
