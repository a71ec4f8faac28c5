import { patternLossDb, peakGainDbi, type AntennaModel, type Polarization } from "../antenna";
import { KM_PER_DEG, signedAngleDeg, type Place } from "../geodesy";
import type { Patch, Radio, Subscriber, World } from "../plan";
import { freeSpaceLossDb, thermalNoiseDbm } from "../propagation";
import { finished, type Steps } from "../steps";

/** A receiver of the usual kind: its noise figure, dB. It is taken to have no gain toward what it does not want. */
const NOISE_FIGURE_DB = 6;
/** Beyond the horizon of any mast nothing is heard, km. */
const FARTHEST_KM = 40;

/** The shorter way round from one longitude to another, degrees. */
const eastDeg = (fromDeg: number, toDeg: number) => {
  const apart = toDeg - fromDeg;
  return apart > 180 ? apart - 360 : apart < -180 ? apart + 360 : apart;
};
const shrinkAt = (latDeg: number) => Math.cos((latDeg * Math.PI) / 180);
/** Angles whose tangent is a share of 1, degrees: an arc tangent for each of a large plan's people from each mast takes most of the time. */
const SHARES = 1024;
const ATAN_DEG = Float64Array.from({ length: SHARES + 1 }, (_, i) => (Math.atan(i / SHARES) * 180) / Math.PI);

/** The whole degree clockwise from north in which something lies; within 0.06° of the border between two it may be either. */
function wholeBearing(eastKm: number, northKm: number): number {
  const [x, y] = [Math.abs(eastKm), Math.abs(northKm)];
  const offNorthDeg = x < y ? ATAN_DEG[((x / y) * SHARES) | 0]! : x > 0 ? 90 - ATAN_DEG[((y / x) * SHARES) | 0]! : 0;
  const offDeg = northKm >= 0 ? offNorthDeg : 180 - offNorthDeg;
  return Math.floor(eastKm >= 0 ? offDeg : 360 - offDeg) % 360;
}
const bearingDeg = (east: number, north: number) => (Math.atan2(east, north) * 180) / Math.PI;

/** Where a radio stands; null where its place has left the plan. */
const placeOf = (world: World, { siteId, subscriberId }: Radio): Place | null =>
  world.sites.get(siteId ?? "") ?? world.subscribers.get(subscriberId ?? "") ?? null;

/** Loss off the axis in the azimuth cut, dB, for each degree clockwise from north of an antenna that aims between north and one degree east of it. */
type Cuts = Map<string, Float64Array>;

/** Antennas of one model that aim at whole degrees share their cut, so it is read once. */
function cutOf(cuts: Cuts, antenna: AntennaModel, polarization: Polarization, aimDeg: number): Float64Array {
  const fraction = aimDeg - Math.floor(aimDeg);
  const key = `${antenna.id} ${polarization} ${fraction}`;
  const known = cuts.get(key);
  if (known) return known;
  const cut = Float64Array.from({ length: 360 }, (_, bearing) =>
    patternLossDb(antenna, polarization, signedAngleDeg(bearing - fraction), 0),
  );
  cuts.set(key, cut);
  return cut;
}

/** How far away a transmitter is still above an unwanting receiver's noise floor, km, for each degree clockwise from north. */
function reachKm(world: World, cuts: Cuts, radio: Radio, aimDeg: number | null): Float64Array | null {
  const antenna = world.antennaModels.get(radio.antennaModelId);
  if (!antenna) return null;
  const floorDbm = thermalNoiseDbm({ bandwidthMHz: radio.widthMHz, noiseFigureDb: NOISE_FIGURE_DB });
  const eirpDbm = radio.txPowerDbm - radio.cableLossDb + peakGainDbi(antenna, radio.frequencyMHz, radio.polarization);
  const lossAtOneKmDb = freeSpaceLossDb({ distanceKm: 1, frequencyGHz: radio.frequencyMHz / 1000 });
  const aheadKm = 10 ** ((eirpDbm - floorDbm - lossAtOneKmDb) / 20);
  if (aimDeg === null) return new Float64Array(360).fill(Math.min(FARTHEST_KM, aheadKm));
  const cut = cutOf(cuts, antenna, radio.polarization, aimDeg);
  const northDeg = ((Math.floor(aimDeg) % 360) + 360) % 360;
  return Float64Array.from({ length: 360 }, (_, bearing) =>
    Math.min(FARTHEST_KM, aheadKm * 10 ** (-cut[(bearing - northDeg + 360) % 360]! / 20)),
  );
}

/** Where people live, flat in arrays: a large plan looks at each of them from every mast. */
interface People {
  latDeg: Float64Array;
  lonDeg: Float64Array;
  count: Float64Array;
}
const peopleOf = (subscribers: readonly Subscriber[]): People => ({
  latDeg: Float64Array.from(subscribers, ({ latDeg }) => latDeg),
  lonDeg: Float64Array.from(subscribers, ({ lonDeg }) => lonDeg),
  count: Float64Array.from(subscribers, ({ people }) => people),
});

/** People as a place sees them: in which whole degree clockwise from north each lives, and the square of how far away. */
interface Around {
  bearing: Uint16Array;
  squareKm2: Float64Array;
  count: Float64Array;
}

function around(place: Place, { latDeg, lonDeg, count }: People): Around {
  const kmPerLonDeg = KM_PER_DEG * shrinkAt(place.latDeg);
  const bearing = new Uint16Array(count.length);
  const squareKm2 = new Float64Array(count.length);
  for (let i = 0; i < count.length; i++) {
    // Flat: within 40 km that is true to a hundredth.
    const northKm = (latDeg[i]! - place.latDeg) * KM_PER_DEG;
    const eastKm = eastDeg(place.lonDeg, lonDeg[i]!) * kmPerLonDeg;
    bearing[i] = wholeBearing(eastKm, northKm);
    squareKm2[i] = northKm * northKm + eastKm * eastKm;
  }
  return { bearing, squareKm2, count };
}

/** How many people live within a reach that differs by bearing. */
function peopleWithin({ bearing, squareKm2, count }: Around, reachKm: Float64Array): number {
  let people = 0;
  for (let i = 0; i < count.length; i++) {
    const km = reachKm[bearing[i]!]!;
    if (squareKm2[i]! <= km * km) people += count[i]!;
  }
  return people;
}

/** Fields of a row on which the noise that a plan makes depends; null for all of them. A kind that is not here makes none. */
const MAKES_NOISE: Partial<Record<Patch["kind"], readonly string[] | null>> = {
  sites: ["latDeg", "lonDeg"],
  subscribers: ["latDeg", "lonDeg", "people"],
  radios: [
    ...["siteId", "subscriberId", "radioModelId", "antennaModelId", "azimuthDeg", "polarization", "carrierId"],
    ...["txPowerDbm", "cableLossDb"],
  ],
  carriers: ["frequencyMHz", "widthMHz"],
  links: ["kind", "aRadioId", "bRadioId"],
  equipment: null,
};

/** Whether some patches may change the noise that a plan makes. */
export const changesNoise = (patches: readonly Patch[]): boolean =>
  patches.some((patch) => {
    const fields = MAKES_NOISE[patch.kind];
    if (fields === undefined) return false;
    return fields === null || !patch.set || Object.keys(patch.set).some((one) => fields.includes(one));
  });

/**
 * The noise that a plan makes, people·km²: for each access point and bridge end the ground over which it stands above the noise floor
 * of a receiver that does not want it, times the people of the plan who live there and are not its own. Over open ground, by the
 * antenna's azimuth cut; customers' radios, which speak to one place only, are left out. A change of it says whether others
 * will hear more or less of the plan, which is what is asked of it.
 */
export function* noiseMadeSteps(world: World): Steps<number> {
  const own = new Map<string, Subscriber[]>();
  const aims = new Map<string, string>();
  for (const { kind, aRadioId, bRadioId } of world.links.values()) {
    const subscriber = world.subscribers.get(world.radios.get(bRadioId)?.subscriberId ?? "");
    const known = own.get(aRadioId);
    if (!known) own.set(aRadioId, subscriber ? [subscriber] : []);
    else if (subscriber) known.push(subscriber);
    if (kind !== "bridge") continue;
    aims.set(aRadioId, bRadioId).set(bRadioId, aRadioId);
    if (!own.has(bRadioId)) own.set(bRadioId, []);
  }
  const cuts: Cuts = new Map();
  const everybody = peopleOf([...world.subscribers.values()]);
  // Radios of one mast see the same people.
  const seenFrom = new Map<Place, Around>();
  let sum = 0;
  yield;
  for (const [radioId, customers] of own) {
    const radio = world.radios.get(radioId);
    const place = radio && placeOf(world, radio);
    if (!radio || !place) continue;
    const other = world.radios.get(aims.get(radioId) ?? "");
    const towards = other && placeOf(world, other);
    const aimDeg =
      radio.azimuthDeg ??
      (towards
        ? bearingDeg(eastDeg(place.lonDeg, towards.lonDeg) * shrinkAt(place.latDeg), towards.latDeg - place.latDeg)
        : null);
    const reach = reachKm(world, cuts, radio, aimDeg);
    if (!reach) continue;
    let areaKm2 = 0;
    for (const km of reach) areaKm2 += (Math.PI * km * km) / 360;
    const all = seenFrom.get(place) ?? around(place, everybody);
    seenFrom.set(place, all);
    const ownPeople = around(place, peopleOf(customers));
    sum += (peopleWithin(all, reach) - peopleWithin(ownPeople, reach)) * areaKm2;
    yield;
  }
  return sum;
}

/** The same at once. */
export const noiseMadePeopleKm2 = (world: World): number => finished(noiseMadeSteps(world));
