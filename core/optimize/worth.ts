import { sectorHeardKm } from "../coverage";
import { costOf } from "../bill";
import type { Evaluation } from "../evaluate";
import { normalizeAzimuthDeg, signedAngleDeg } from "../geodesy";
import { wantedMarginDb } from "../link";
import { endOf, type Radio, type World } from "../plan";
import { azimuthLossDb, sectorCustomer, shareOfDistance, type SectorCustomer } from "../sectors";

/** What some sectors come to. */
export interface Worth {
  customersServed: number;
  peopleServed: number;
  /** Mean over those served, each customer's people counted, of the logarithm of the weaker way's rate; 0 without any. */
  rateScore: number;
  /** The same as a rate, Mbit/s: the geometric mean; null where nobody is served. */
  meanMbps: number | null;
  /** Ground on which such customers could be served if it were open, and nobody stands, km². */
  strayKm2: number;
  costEur: number;
}

/** A customer makes use of so many degrees either side of him. */
const PURPOSE_DEG = 10;

/**
 * Ground lit for nobody by one sector, km²: degree by degree the distance at which a customer with its usual kit would still be served
 * over open ground with the margin wanted, less the part up to the farthest customer who is served there.
 */
export function strayKm2(world: World, sector: Radio, served: readonly SectorCustomer[]): number {
  const heardKm = sectorHeardKm(world, sector);
  if (heardKm === null) return 0;
  const { antenna, model } = endOf(world, sector.id);
  const neededDb = model.modulations[0]!.snrDb + wantedMarginDb(world.plan, sector.frequencyMHz);
  const servesKm = heardKm * shareOfDistance(neededDb);
  let sum = 0;
  for (let bearing = 0; bearing < 360; bearing++) {
    const lossDb =
      sector.azimuthDeg === null
        ? 0
        : azimuthLossDb(antenna, sector.polarization, signedAngleDeg(bearing - sector.azimuthDeg));
    const litKm = Math.min(FARTHEST_KM, servesKm * shareOfDistance(lossDb));
    let usedKm = 0;
    for (const { bearingDeg, distanceM } of served)
      if (Math.abs(signedAngleDeg(normalizeAzimuthDeg(bearingDeg) - bearing)) <= PURPOSE_DEG)
        usedKm = Math.max(usedKm, distanceM / 1000);
    sum += (Math.PI / 360) * Math.max(0, litKm ** 2 - usedKm ** 2);
  }
  return sum;
}
/** Beyond the horizon of any mast nothing is lit, km. */
const FARTHEST_KM = 40;

/** What the sectors of some sites come to in a plan that has been worked out. */
export function worthOf(
  { world, answers }: Pick<Evaluation, "world" | "answers">,
  siteIds: ReadonlySet<string>,
): Worth {
  const bySector = new Map<string, SectorCustomer[]>();
  for (const { id, siteId, role } of world.radios.values())
    if (role === "sector" && siteIds.has(siteId ?? "")) bySector.set(id, []);
  let [customersServed, peopleServed, logs] = [0, 0, 0];
  for (const link of world.links.values()) {
    const own = bySector.get(link.aRadioId);
    const customer = own && link.kind === "access" ? sectorCustomer(world, link, answers.get(link.id)!) : null;
    if (!customer?.isServed) continue;
    own!.push(customer);
    customersServed++;
    peopleServed += customer.people;
    logs += customer.people * Math.log10(Math.min(customer.downMbps, customer.upMbps));
  }
  const rateScore = peopleServed > 0 ? logs / peopleServed : 0;
  let stray = 0;
  for (const [id, served] of bySector) stray += strayKm2(world, world.radios.get(id)!, served);
  return {
    customersServed,
    peopleServed,
    rateScore,
    strayKm2: stray,
    costEur: costOf(world),
    meanMbps: peopleServed > 0 ? 10 ** rateScore : null,
  };
}

/** Rates are compared in hundredths of a decade, areas in hundredths of a km²: what differs less is equal. */
const RATE_STEP = 0.01;
const AREA_STEP_KM2 = 0.01;

/** Whether one is better: more people served; then better rates; then less ground lit for nobody; then cheaper. */
export function isBetter(one: Worth, other: Worth): boolean {
  const ranks = ({ peopleServed, rateScore, strayKm2: stray, costEur }: Worth) => [
    peopleServed,
    Math.round(rateScore / RATE_STEP),
    -Math.round(stray / AREA_STEP_KM2),
    -costEur,
  ];
  const [own, others] = [ranks(one), ranks(other)];
  const differing = own.findIndex((rank, i) => rank !== others[i]);
  return differing >= 0 && own[differing]! > others[differing]!;
}
