import type { LinkEnd, Plan, Radio, World } from "../plan";
import { endOf, linksOn } from "../plan";
import { antennasFor, powerWithinCapDbm, radioModelsFor } from "../kit";
import { beamTowardDb, learnedNoiseAt, NO_TREES, pathLosses, tapeOf, type OwnNoise, type Tape } from "../link";
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
  downSnrDb: Float32Array;
  upSnrDb: Float32Array;
  /** Fade margin, rain not counted. */
  downFadeDb: Float32Array;
  upFadeDb: Float32Array;
  downMbps: Float32Array;
  upMbps: Float32Array;
}
export const LEAST_LOSS_DB = 40;
export const LOSS_STEP_DB = 0.2;
const MOST_LOSS_DB = 240;
const STEPS = Math.round((MOST_LOSS_DB - LEAST_LOSS_DB) / LOSS_STEP_DB) + 1;

/** The place of a loss in a table, rounded toward more loss. */
export const lossIndex = (lossDb: number): number =>
  Math.min(STEPS - 1, Math.max(0, Math.ceil((lossDb - LEAST_LOSS_DB) / LOSS_STEP_DB)));

/**
 * A sector's tapes toward one kind of customer for every loss: each figure is a tape's own. `heard` is what the sector hears of the
 * plan's other transmitters; the customer's own noise is thermal here, for it differs from cell to cell: `classify` adds what was
 * learned of it. A receive beam is taken to hear all of
 * that as if it stood where the beam looks: what it spares differs from cell to cell too.
 */
export function lossTable(world: World, sector: Radio, kit: ClientKit, heard: OwnNoise | null): LossTable {
  const { plan } = world;
  const near = endOf(world, sector.id);
  const far = clientEnd(world, sector, kit);
  const table: LossTable = {
    downDbm: new Float32Array(STEPS),
    upDbm: new Float32Array(STEPS),
    downSnrDb: new Float32Array(STEPS),
    upSnrDb: new Float32Array(STEPS),
    downFadeDb: new Float32Array(STEPS),
    upFadeDb: new Float32Array(STEPS),
    downMbps: new Float32Array(STEPS),
    upMbps: new Float32Array(STEPS),
  };
  const beamDb = beamTowardDb(near, AHEAD);
  const mostHeard = heard && { ...heard, dbm: heard.dbm === null ? null : heard.dbm + beamDb };
  for (let i = 0; i < STEPS; i++) {
    const { down, up } = tapesAt(plan, near, far, LEAST_LOSS_DB + i * LOSS_STEP_DB, mostHeard);
    table.downDbm[i] = down.chainLevelDbm;
    table.upDbm[i] = up.chainLevelDbm;
    table.downSnrDb[i] = down.snrDb;
    table.upSnrDb[i] = up.snrDb;
    table.downFadeDb[i] = down.fadeMarginDb;
    table.upFadeDb[i] = up.fadeMarginDb;
    table.downMbps[i] = down.rateMbps;
    table.upMbps[i] = up.rateMbps;
  }
  return table;
}

/** Straight ahead on both sides: the pattern counts as part of the loss. */
const AHEAD: Pointing = { azimuthDeg: 0, mechanicalTiltDownDeg: 0, azimuthOffDeg: 0, elevationOffDeg: 0 };

function tapesAt(
  plan: Plan,
  near: LinkEnd,
  far: LinkEnd,
  lossDb: number,
  heard: OwnNoise | null,
): { down: Tape; up: Tape } {
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
    up: tapeOf({ ...shared, ...ahead, direction: "bToA", from: far, to: near, heard, learnedNoise }),
  };
}
