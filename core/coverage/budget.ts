import type { LinkEnd, Plan, Radio, World } from "../plan";
import { endOf, linksOn } from "../plan";
import { antennasFor, powerWithinCapDbm, radioModelsFor } from "../kit";
import { learnedNoiseAt, NO_TREES, pathLosses, tapeOf, type Tape } from "../link";
import type { Pointing } from "../aiming";

/** A customer's kit as it would stand in any cell. */
export interface ClientKit {
  radioModelId: string;
  antennaModelId: string;
  heightM: number;
}

/** The kit that most of a sector's customers have, at their middle height; the library's cheapest that fits for a sector without any. */
export function usualClient(world: World, sector: Radio): ClientKit | null {
  const customers = linksOn(world, sector.id)
    .filter(({ kind }) => kind === "access")
    .flatMap(({ bRadioId }) => world.radios.get(bRadioId) ?? []);
  if (customers.length > 0) {
    const counted = new Map<string, Radio[]>();
    for (const one of customers) {
      const key = `${one.radioModelId} ${one.antennaModelId}`;
      counted.set(key, [...(counted.get(key) ?? []), one]);
    }
    const most = [...counted.values()].reduce((best, some) => (some.length > best.length ? some : best));
    const heights = most.map(({ heightM }) => heightM).sort((x, y) => x - y);
    const { radioModelId, antennaModelId } = most[0]!;
    return { radioModelId, antennaModelId, heightM: heights[heights.length >> 1]! };
  }
  const model = radioModelsFor(world, "subscriber", sector.frequencyMHz).find(({ widthsMHz }) =>
    widthsMHz.includes(sector.widthMHz),
  );
  const antenna = antennasFor(world, "subscriber", sector.frequencyMHz).at(-1);
  return model && antenna ? { radioModelId: model.id, antennaModelId: antenna.id, heightM: USUAL_HEIGHT_M } : null;
}
const USUAL_HEIGHT_M = 6;

/** Such a customer as the far end of a link. Throws RangeError where the library lacks his kit. */
export function clientEnd(world: World, sector: Radio, kit: ClientKit): LinkEnd {
  const model = world.radioModels.get(kit.radioModelId);
  const antenna = world.antennaModels.get(kit.antennaModelId);
  if (!model || !antenna) throw new RangeError("The customer's kit is not in the library.");
  const radio: Radio = {
    ...sector,
    id: "",
    name: "",
    role: "subscriber",
    siteId: null,
    subscriberId: "",
    address: "",
    radioModelId: model.id,
    antennaModelId: antenna.id,
    heightM: kit.heightM,
    azimuthDeg: null,
    tiltDownDeg: null,
    cableLossDb: 0,
    interferenceDb: 0,
  };
  radio.txPowerDbm = powerWithinCapDbm(world, { model, antenna, radio }, "ptmp");
  return {
    ...{ radio, model, antenna, place: { latDeg: 0, lonDeg: 0 }, placeName: "", behind: "none" },
    maxHeightM: kit.heightM,
    hazards: "",
    access: "",
    demand: null,
    scans: [],
  };
}

/** What a customer gets by all that is lost on the way, the sector's pattern included, in steps of `LOSS_STEP_DB` from `LEAST_LOSS_DB`. */
export interface LossTable {
  /** Level on a chain at the customer and at the sector, dBm. */
  downDbm: Float32Array;
  upDbm: Float32Array;
  /** Noise on one chain at each end as in the tapes: its level, and its rise over thermal noise. */
  downNoise: TableNoise;
  upNoise: TableNoise;
  /** Fade margin, rain not counted. */
  downFadeDb: Float32Array;
  upFadeDb: Float32Array;
  downMbps: Float32Array;
  upMbps: Float32Array;
}
export interface TableNoise {
  dbm: number;
  riseDb: number;
}
export const LEAST_LOSS_DB = 40;
export const LOSS_STEP_DB = 0.2;
const MOST_LOSS_DB = 240;
const STEPS = Math.round((MOST_LOSS_DB - LEAST_LOSS_DB) / LOSS_STEP_DB) + 1;

/** The place of a loss in a table, rounded toward more loss. */
export const lossIndex = (lossDb: number): number =>
  Math.min(STEPS - 1, Math.max(0, Math.ceil((lossDb - LEAST_LOSS_DB) / LOSS_STEP_DB)));

/**
 * A sector's tapes toward one kind of customer for every loss: each figure is a tape's own. The plan's other transmitters are left
 * out, and what was learned of noise at the customer: they differ from cell to cell, and `classify` adds them.
 */
export function lossTable(world: World, sector: Radio, kit: ClientKit): LossTable {
  const { plan } = world;
  const near = endOf(world, sector.id);
  const far = clientEnd(world, sector, kit);
  const first = tapesAt(plan, near, far, LEAST_LOSS_DB);
  const noiseOf = ({ noiseDbm, noise }: Tape): TableNoise => ({ dbm: noiseDbm, riseDb: noise.riseDb });
  const table: LossTable = {
    downDbm: new Float32Array(STEPS),
    upDbm: new Float32Array(STEPS),
    downNoise: noiseOf(first.down),
    upNoise: noiseOf(first.up),
    downFadeDb: new Float32Array(STEPS),
    upFadeDb: new Float32Array(STEPS),
    downMbps: new Float32Array(STEPS),
    upMbps: new Float32Array(STEPS),
  };
  for (let i = 0; i < STEPS; i++) {
    const { down, up } = tapesAt(plan, near, far, LEAST_LOSS_DB + i * LOSS_STEP_DB);
    table.downDbm[i] = down.chainLevelDbm;
    table.upDbm[i] = up.chainLevelDbm;
    table.downFadeDb[i] = down.fadeMarginDb;
    table.upFadeDb[i] = up.fadeMarginDb;
    table.downMbps[i] = down.rateMbps;
    table.upMbps[i] = up.rateMbps;
  }
  return table;
}

/** Straight ahead on both sides: the pattern counts as part of the loss. */
export const AHEAD: Pointing = { azimuthDeg: 0, mechanicalTiltDownDeg: 0, azimuthOffDeg: 0, elevationOffDeg: 0 };

function tapesAt(plan: Plan, near: LinkEnd, far: LinkEnd, lossDb: number): { down: Tape; up: Tape } {
  const { frequencyMHz, widthMHz } = near.radio;
  const free = pathLosses({
    learned: null,
    distanceKm: 1,
    diffractionDb: 0,
    trees: NO_TREES,
    frequencyMHz,
    widthMHz,
    rainRate001MmPerH: 0,
  });
  const path = { ...free, oxygenDbPerKm: 0, vapourDbPerKm: 0, diffractionDb: lossDb - free.freeSpaceDb };
  const learnedNoise = learnedNoiseAt(plan, near, frequencyMHz);
  const shared = { plan, kind: "access" as const, isMismatched: false, turnedDownDb: 0, path };
  const ahead = { fromPointing: AHEAD, toPointing: AHEAD };
  return {
    down: tapeOf({ ...shared, ...ahead, direction: "aToB", from: near, to: far, heard: null, learnedNoise: null }),
    up: tapeOf({ ...shared, ...ahead, direction: "bToA", from: far, to: near, heard: null, learnedNoise }),
  };
}
