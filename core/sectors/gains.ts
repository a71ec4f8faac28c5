import { bracketReach } from "../aiming";
import { peakGainDbi } from "../antenna";
import { clientEnd, freelyHeardKm, usualClient } from "../coverage";
import { antennasFor, powerWithinCapDbm } from "../kit";
import type { ProfileSource } from "../outcome";
import { endOf, linkEnds, type World } from "../plan";
import { edgesOf } from "./edges";
import { customerLinks, tried, type Stand } from "./stands";

/** A sector with one antenna, at the least power at which it serves as many people as at any. */
export interface GainRow extends Stand {
  antennaModelId: string;
  antenna: string;
  gainDbi: number;
  /** Width in azimuth at −6 dB, degrees; 360 for one that looks all round. */
  widthDeg: number;
  /** Of the bracket, so that the beam looks as far down as it does now. */
  mechanicalDeg: number;
  txPowerDbm: number;
  /** Greatest power that radio, antenna and caps allow. */
  mostDbm: number;
  /** How far a customer's transmitter that looks here is heard in free sight, km: receive gain cannot be turned down. */
  hearsKm: number;
  /** How far such a customer hears the sector at that power, km. */
  heardKm: number;
  /** Change of price by the antenna, euro. */
  costEur: number;
}

/** Every antenna that a sector could carry, each with the least power that does its work; the least gain first; none without customers. */
export function gainTable(world: World, radioId: string, between: ProfileSource): GainRow[] {
  const [first] = customerLinks(world, radioId);
  const here = endOf(world, radioId);
  const { radio, antenna: now, model } = here;
  const kit = usualClient(world, radio);
  if (!first || !kit) return [];
  const client = clientEnd(world, radio, kit);
  const stepDb = Math.max(model.powerStepDb, LEAST_POWER_STEP_DB);
  const ways = antennasFor(world, "sector", radio.frequencyMHz, model).flatMap((antenna) => {
    const { upDeg, downDeg } = bracketReach({ ...linkEnds(world, first).a, antenna });
    const wantedDeg = (radio.tiltDownDeg ?? 0) + now.electricalTiltDownDeg - antenna.electricalTiltDownDeg;
    const mechanicalDeg = Math.min(downDeg, Math.max(-upDeg, wantedDeg));
    const mostDbm = powerWithinCapDbm(world, { model, antenna, radio }, "ptmp");
    const steps = Math.floor((mostDbm - model.powerMinDbm) / stepDb + 1e-9);
    return Array.from({ length: steps + 1 }, (_, i) => ({
      antenna,
      mechanicalDeg,
      mostDbm,
      txPowerDbm: mostDbm - i * stepDb,
    }));
  });
  const standing = ({ antenna, mechanicalDeg, txPowerDbm }: (typeof ways)[number]) => ({
    radio: {
      ...radio,
      antennaModelId: antenna.id,
      tiltDownDeg: radio.tiltDownDeg === null ? null : mechanicalDeg,
      txPowerDbm,
    },
    antenna,
  });
  const tries = tried(world, radioId, ways, standing, between);
  const rows = [...new Set(ways.map(({ antenna }) => antenna))].map((antenna): GainRow => {
    const powers = tries.filter((one) => one.antenna === antenna);
    // A power may be too great as well as too small: a near customer's receiver is overloaded.
    const most = Math.max(...powers.map(({ peopleServed: people }) => people));
    const least = powers.findLast(({ peopleServed: people }) => people === most)!;
    const { customersServed, peopleServed, weakestMarginDb, txPowerDbm, mechanicalDeg, mostDbm } = least;
    const edge = edgesOf(antenna, radio.polarization).find(({ depthDb }) => depthDb === 6)!;
    const near = { ...here, radio: { ...radio, txPowerDbm }, antenna };
    return {
      ...{ antennaModelId: antenna.id, antenna: antenna.model },
      gainDbi: peakGainDbi(antenna, radio.frequencyMHz, radio.polarization),
      widthDeg: edge.leftDeg + edge.rightDeg,
      ...{ customersServed, peopleServed, weakestMarginDb, txPowerDbm, mechanicalDeg, mostDbm },
      hearsKm: freelyHeardKm(near, client),
      heardKm: freelyHeardKm(client, near),
      costEur: antenna.priceEur - now.priceEur,
    };
  });
  return rows.sort((x, y) => x.gainDbi - y.gainDbi || x.costEur - y.costEur);
}
/** Finer steps of power than this say nothing, dB. */
const LEAST_POWER_STEP_DB = 1;
