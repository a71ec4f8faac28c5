import { beamTurnedDeg } from "../antenna";
import { sectorAirtime } from "../capacity";
import { antennasFor, radioModelsFor, withPowerInCap } from "../kit";
import type { ProfileSource } from "../outcome";
import { trialOf, type Trial } from "../trial";
import { endOf, radioPatches, type Patch, type World } from "../plan";
import { customerLinks } from "./stands";

/** The sector's side of one customer's link. */
export interface UpWay {
  snrDb: number;
  rateMbps: number;
  /** Noise above thermal at the sector while it listens to him, dB. */
  riseDb: number;
}

/** What a receive beam is worth toward one customer. */
export interface BeamCustomer {
  linkId: string;
  name: string;
  people: number;
  /** He stands so far off the boresight that the beam cannot turn all the way to him. */
  isBeyond: boolean;
  now: UpWay;
  then: UpWay;
}

/** A sector with an adaptive antenna of the library. */
export interface BeamRow {
  antennaModelId: string;
  antenna: string;
  widthDeg: number;
  /** The radio that it needs, where the sector's own turns no beam; else null. */
  radioModel: string | null;
  costEur: number;
  /** What it weighs more than the antenna that is planned, kg. */
  heavierKg: number;
  servedNow: number;
  servedThen: number;
  /** Share of the frame toward the sector that is asked for at the busy hour. */
  loadNow: number;
  loadThen: number;
  /** Those who gain most SNR first; without those whose path has no answer. */
  customers: BeamCustomer[];
  patches: Patch[];
}

/**
 * Every adaptive antenna of the library on one sector, each customer answered in full: what the sector hears of him, and of everybody
 * else while its beam looks at him. Throws RangeError for a radio that the plan does not hold.
 */
export function beamTable(world: World, radioId: string, between: ProfileSource): BeamRow[] {
  const { radio, model, antenna: own } = endOf(world, radioId);
  const links = customerLinks(world, radioId);
  const steering = model.steersBeam
    ? model
    : radioModelsFor(world, "sector", radio.frequencyMHz).find(
        ({ steersBeam, widthsMHz }) => steersBeam && widthsMHz.includes(radio.widthMHz),
      );
  if (!steering || links.length === 0) return [];
  const comesTo = (trial: Trial) => {
    const summaries = new Map(links.map(({ id }) => [id, trial.summary(id)]));
    const served = [...summaries.values()].filter((one) => one.served).length;
    return {
      answers: links.map(({ id }) => trial.answer(id)),
      served,
      load: sectorAirtime(trial.world, links, summaries).up,
    };
  };
  const before = trialOf(world, between);
  const now = comesTo(before);
  return antennasFor(world, "sector", radio.frequencyMHz, steering).flatMap((antenna): BeamRow[] => {
    if (!antenna.receiveBeam || antenna.id === own.id) return [];
    const fitted = { ...radio, antennaModelId: antenna.id, radioModelId: steering.id };
    const patches = radioPatches(world, withPowerInCap(world, { radio: fitted, model: steering, antenna }, "ptmp"));
    const then = comesTo(before.after(patches));
    const customers = links.flatMap(({ id, bRadioId }, i): BeamCustomer[] => {
      const [before, after] = [now.answers[i]!.path?.bToA, then.answers[i]!.path?.bToA];
      const customer = world.subscribers.get(world.radios.get(bRadioId)?.subscriberId ?? "");
      if (!before || !after || !customer) return [];
      const wayOf = ({ snrDb, rateMbps, noise }: typeof before): UpWay => ({ snrDb, rateMbps, riseDb: noise.riseDb });
      const { name, people } = customer;
      const { azimuthOffDeg } = after.question.toPointing;
      const isBeyond = beamTurnedDeg(antenna.receiveBeam!, azimuthOffDeg) !== azimuthOffDeg;
      return [{ linkId: id, name, people, isBeyond, now: wayOf(before), then: wayOf(after) }];
    });
    const gainDb = (one: BeamCustomer) => one.then.snrDb - one.now.snrDb;
    return [
      {
        ...{ antennaModelId: antenna.id, antenna: antenna.model, widthDeg: antenna.receiveBeam.widthDeg },
        radioModel: steering === model ? null : steering.model,
        costEur: antenna.priceEur - own.priceEur + steering.priceEur - model.priceEur,
        heavierKg: antenna.weightKg - own.weightKg,
        ...{ servedNow: now.served, servedThen: then.served, loadNow: now.load, loadThen: then.load },
        customers: customers.sort((x, y) => gainDb(y) - gainDb(x)),
        patches,
      },
    ];
  });
}
