import {
  classify,
  lossTable,
  newCells,
  weatherTable,
  withPattern,
  type ClientKit,
  type CoverageCells,
  type LossTable,
} from "#core/coverage";
import { climateOf } from "#core/climate";
import { wantedMarginDb, type OwnNoise } from "#core/link";
import type { Radio, World } from "#core/plan";
import { useMemo, useRef } from "react";
import type { Losses } from "./useLosses";

/** What every cell gets of a sector as it stands in hand. */
export interface Painted {
  cells: CoverageCells;
  /** With the pattern in it, dB. */
  totalDb: Float32Array;
  table: LossTable;
  marginDb: number;
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

/** Lays the antenna's pattern and the tapes over path losses that are here: all that a dragged heading, tilt or power asks for. */
export function useCells(
  world: World,
  radio: Radio | null,
  kit: ClientKit | null,
  heard: OwnNoise | null,
  losses: Losses | null,
): Painted | null {
  const tableKey = radio && kit && JSON.stringify([TABLE_FIELDS.map((field) => radio[field]), kit, heard?.dbm]);
  const latest = useRef({ world, radio, kit, heard });
  latest.current = { world, radio, kit, heard };
  const { plan } = world;
  const table = useMemo(() => {
    const now = latest.current;
    return tableKey === null ? null : lossTable(now.world, now.radio!, now.kit!, now.heard);
    // The plan's settings are the one thing beside the key that tapes follow from.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [tableKey, plan]);
  const weather = useMemo(() => {
    if (!radio || !losses) return null;
    const { rainRate001MmPerH } = climateOf(plan, losses.grid.middle.latDeg);
    const radiusKm = losses.grid.rings * losses.grid.cellNorthKm;
    return weatherTable(plan, radio, rainRate001MmPerH, radiusKm);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [plan, radio?.frequencyMHz, radio?.polarization, losses?.grid]);
  const room = useMemo(
    () => losses && { cells: newCells(losses.grid), totalDb: new Float32Array(losses.bearings.length) },
    [losses],
  );
  return useMemo(() => {
    if (!radio || !table || !losses || !weather || !room) return null;
    const antenna = world.antennaModels.get(radio.antennaModelId)!;
    const { polarization, azimuthDeg, tiltDownDeg } = radio;
    const at = { antenna, polarization, azimuthDeg: azimuthDeg ?? 0, mechanicalTiltDownDeg: tiltDownDeg ?? 0 };
    const marginDb = wantedMarginDb(plan, radio.frequencyMHz);
    withPattern(losses.losses, losses.bearings, at, room.totalDb);
    classify(losses.grid, losses.losses, room.totalDb, table, weather, marginDb, room.cells);
    return { ...room, table, marginDb };
  }, [world, plan, radio, table, losses, weather, room]);
}
