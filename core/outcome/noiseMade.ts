import { patternLossDb, peakGainDbi } from "../antenna";
import { signedAngleDeg, type Place } from "../geodesy";
import type { Radio, World } from "../plan";
import { freeSpaceLossDb, thermalNoiseDbm } from "../propagation";

/** A receiver of the usual kind: its noise figure, dB. It is taken to have no gain toward what it does not want. */
const NOISE_FIGURE_DB = 6;
/** Beyond the horizon of any mast nothing is heard, km. */
const FARTHEST_KM = 40;
const KM_PER_DEG = 111.2;

/** The shorter way round from one longitude to another, degrees. */
const eastDeg = (fromDeg: number, toDeg: number) => {
  const apart = toDeg - fromDeg;
  return apart > 180 ? apart - 360 : apart < -180 ? apart + 360 : apart;
};
const shrinkAt = (latDeg: number) => Math.cos((latDeg * Math.PI) / 180);
const bearingDeg = (eastKm: number, northKm: number) => (Math.atan2(eastKm, northKm) * 180) / Math.PI;

/** Where a radio stands; null where its place has left the plan. */
const placeOf = (world: World, { siteId, subscriberId }: Radio): Place | null =>
  world.sites.get(siteId ?? "") ?? world.subscribers.get(subscriberId ?? "") ?? null;

/** How far away a transmitter is still above an unwanting receiver's noise floor, km, for each degree clockwise from north. */
function reachKm(world: World, radio: Radio, aimDeg: number | null): Float64Array | null {
  const antenna = world.antennaModels.get(radio.antennaModelId);
  if (!antenna) return null;
  const floorDbm = thermalNoiseDbm({ bandwidthMHz: radio.widthMHz, noiseFigureDb: NOISE_FIGURE_DB });
  const eirpDbm = radio.txPowerDbm - radio.cableLossDb + peakGainDbi(antenna, radio.frequencyMHz, radio.polarization);
  const lossAtOneKmDb = freeSpaceLossDb({ distanceKm: 1, frequencyGHz: radio.frequencyMHz / 1000 });
  const aheadKm = 10 ** ((eirpDbm - floorDbm - lossAtOneKmDb) / 20);
  return Float64Array.from({ length: 360 }, (_, bearing) => {
    const lossDb =
      aimDeg === null ? 0 : patternLossDb(antenna, radio.polarization, signedAngleDeg(bearing - aimDeg), 0);
    return Math.min(FARTHEST_KM, aheadKm * 10 ** (-lossDb / 20));
  });
}

/**
 * The noise that a plan makes, people·km²: for each access point and bridge end the ground over which it stands above the noise floor
 * of a receiver that does not want it, times the people of the plan who live there and are not its own. Over open ground, by the
 * antenna's azimuth cut; customers' radios, which speak to one place only, are left out. A change of it says whether others
 * will hear more or less of the plan, which is what is asked of it.
 */
export function noiseMadePeopleKm2(world: World): number {
  const own = new Map<string, Set<string>>();
  const aims = new Map<string, string>();
  for (const { kind, aRadioId, bRadioId } of world.links.values()) {
    const subscriberId = world.radios.get(bRadioId)?.subscriberId;
    const known = own.get(aRadioId) ?? new Set();
    own.set(aRadioId, subscriberId ? known.add(subscriberId) : known);
    if (kind !== "bridge") continue;
    aims.set(aRadioId, bRadioId).set(bRadioId, aRadioId);
    if (!own.has(bRadioId)) own.set(bRadioId, new Set());
  }
  let sum = 0;
  for (const [radioId, customers] of own) {
    const radio = world.radios.get(radioId);
    const place = radio && placeOf(world, radio);
    if (!radio || !place) continue;
    const other = world.radios.get(aims.get(radioId) ?? "");
    const towards = other && placeOf(world, other);
    const kmPerLonDeg = KM_PER_DEG * shrinkAt(place.latDeg);
    const bearingTo = ({ latDeg, lonDeg }: Place) =>
      bearingDeg(eastDeg(place.lonDeg, lonDeg) * kmPerLonDeg, (latDeg - place.latDeg) * KM_PER_DEG);
    const aimDeg = radio.azimuthDeg ?? (towards ? bearingTo(towards) : null);
    const reach = reachKm(world, radio, aimDeg);
    if (!reach) continue;
    let areaKm2 = 0;
    for (const km of reach) areaKm2 += (Math.PI * km * km) / 360;
    const [leastKm, mostKm] = [Math.min(...reach), Math.max(...reach)];
    let people = 0;
    for (const subscriber of world.subscribers.values()) {
      // Flat: within 40 km that is true to a hundredth.
      const northKm = (subscriber.latDeg - place.latDeg) * KM_PER_DEG;
      const eastKm = eastDeg(place.lonDeg, subscriber.lonDeg) * kmPerLonDeg;
      const squareKm = northKm * northKm + eastKm * eastKm;
      if (squareKm > mostKm * mostKm) continue;
      if (squareKm > leastKm * leastKm) {
        const reachedKm = reach[(Math.floor(bearingDeg(eastKm, northKm)) + 360) % 360]!;
        if (squareKm > reachedKm * reachedKm) continue;
      }
      if (!customers.has(subscriber.id)) people += subscriber.people;
    }
    sum += people * areaKm2;
  }
  return sum;
}
