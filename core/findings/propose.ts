import { patternLossDb } from "../antenna";
import { inverseGeodesic, signedAngleDeg, type Place } from "../geodesy";
import type { Edit, Link, Radio, Site, Subscriber, World } from "../plan";
import { antennasFor, powerWithinCapDbm, radioModelsFor } from "./kit";

/** Loss off a sector's boresight, dB, up to which a new customer is still given to it. */
const SECTOR_EDGE_DB = 6;
/** Where a plan says nothing, a new link starts in the band that most radios and rule sets know. */
const DEFAULT_FREQUENCY_MHZ = 5700;

const COMMON = {
  cableLossDb: 0,
  interferenceDb: 0,
  ethernetM: 20,
  injector: "none",
  address: "",
  bracketTurned: false,
} as const;

function newRadio(
  world: World,
  makeId: () => string,
  owner: { siteId: string } | { subscriberId: string },
  role: Radio["role"],
  name: string,
  heightM: number,
  channel: { frequencyMHz: number; widthMHz?: number; polarization?: Radio["polarization"] },
  pickAntenna: "cheapest" | "largest",
): Radio | null {
  const model = radioModelsFor(world, role, channel.frequencyMHz).find(
    (m) => channel.widthMHz === undefined || m.widthsMHz.includes(channel.widthMHz),
  );
  const antennas = antennasFor(world, role, channel.frequencyMHz);
  const antenna = pickAntenna === "cheapest" ? antennas[0] : antennas.at(-1);
  if (!model || !antenna) return null;
  const widthMHz = channel.widthMHz ?? (model.widthsMHz.includes(20) ? 20 : model.widthsMHz[0]!);
  const radio: Radio = {
    ...COMMON,
    id: makeId(),
    planId: world.plan.id,
    siteId: "siteId" in owner ? owner.siteId : null,
    subscriberId: "subscriberId" in owner ? owner.subscriberId : null,
    name,
    role,
    radioModelId: model.id,
    antennaModelId: antenna.id,
    heightM,
    azimuthDeg: null,
    tiltDownDeg: null,
    polarization: channel.polarization ?? "HV",
    frequencyMHz: channel.frequencyMHz,
    widthMHz,
    txPowerDbm: 0,
    injector: model.powerInput,
  };
  radio.txPowerDbm = powerWithinCapDbm(world, model, antenna, radio, role === "bridge" ? "ptp" : "ptmp");
  return radio;
}

/** The site's sector that sees a place best, if any holds it within its edge. */
export function bestSector(world: World, siteId: string, site: Place, place: Place): Radio | null {
  const bearing = inverseGeodesic(site, place).azimuthDeg;
  let best: Radio | null = null;
  let bestLoss = SECTOR_EDGE_DB;
  for (const radio of world.radios.values()) {
    if (radio.siteId !== siteId || radio.role !== "sector") continue;
    const antenna = world.antennaModels.get(radio.antennaModelId);
    if (!antenna || radioModelsFor(world, "subscriber", radio.frequencyMHz).length === 0) continue;
    const loss = patternLossDb(antenna, radio.polarization, signedAngleDeg(bearing - (radio.azimuthDeg ?? bearing)), 0);
    if (loss <= bestLoss) {
      best = radio;
      bestLoss = loss;
    }
  }
  return best;
}

/**
 * The edits of a first, workable link from a site to a subscriber: on the sector that already looks there, or on a new
 * one turned to the customer. Null when the library has no fitting kit. Power is set to what the caps allow.
 */
export function proposeAccess(world: World, site: Site, subscriber: Subscriber, makeId: () => string): Edit[] | null {
  const edits: Edit[] = [];
  let sector = bestSector(world, site.id, site, subscriber);
  if (!sector) {
    sector = newRadio(
      world,
      makeId,
      { siteId: site.id },
      "sector",
      `Sector ${subscriber.name}`,
      site.structureHeightM,
      { frequencyMHz: DEFAULT_FREQUENCY_MHZ },
      "cheapest",
    );
    if (!sector) return null;
    sector.azimuthDeg = Math.round(inverseGeodesic(site, subscriber).azimuthDeg) % 360;
    sector.tiltDownDeg = 0;
    edits.push({ kind: "radios", id: sector.id, row: sector });
  }
  const client = newRadio(
    world,
    makeId,
    { subscriberId: subscriber.id },
    "subscriber",
    `${subscriber.name} radio`,
    Math.min(subscriber.antennaHeightM, subscriber.maxHeightM),
    sector,
    "cheapest",
  );
  if (!client) return null;
  edits.push({ kind: "radios", id: client.id, row: client });
  return [...edits, linkEdit(world, makeId, "access", sector.id, client.id)];
}

/** The edits of a first bridge between two sites, with the largest antennas of the library. */
export function proposeBridge(world: World, from: Site, to: Site, makeId: () => string): Edit[] | null {
  const a = newRadio(
    world,
    makeId,
    { siteId: from.id },
    "bridge",
    `Bridge to ${to.name}`,
    from.structureHeightM,
    { frequencyMHz: 5800 },
    "largest",
  );
  const b = newRadio(
    world,
    makeId,
    { siteId: to.id },
    "bridge",
    `Bridge to ${from.name}`,
    to.structureHeightM,
    { frequencyMHz: 5800 },
    "largest",
  );
  if (!a || !b) return null;
  return [
    { kind: "radios", id: a.id, row: a },
    { kind: "radios", id: b.id, row: b },
    linkEdit(world, makeId, "bridge", a.id, b.id),
  ];
}

function linkEdit(world: World, makeId: () => string, kind: Link["kind"], aRadioId: string, bRadioId: string): Edit {
  const id = makeId();
  return {
    kind: "links",
    id,
    row: { id, planId: world.plan.id, kind, aRadioId, bRadioId, state: "planned", foliageDepthM: 0 },
  };
}
