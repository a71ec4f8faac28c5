import { patternLossDb, peakGainDbi, type AntennaModel } from "../antenna";
import { inverseGeodesic, signedAngleDeg, type Place } from "../geodesy";
import {
  endOf,
  LONGEST_NAME,
  putPatch,
  radioPatches,
  radiosBySite,
  setPatch,
  untuned,
  type Link,
  type LinkEnd,
  type Patch,
  type Radio,
  type Site,
  type Subscriber,
  type World,
  USUAL_CABLING,
} from "../plan";
import { wantedMarginDb } from "../link";
import { freeSpaceLossDb } from "../propagation";
import { sensitivityDbm, type RadioModel } from "../radio";
import { quietestChannelMHz } from "./channels";
import { antennasFor, powerWithinCapDbm, radioModelsFor } from "../kit";

/** Loss off a sector's boresight, dB, up to which a new customer is still given to it. */
const SECTOR_EDGE_DB = 6;
/** Where a plan says nothing, a new link starts in the band that most radios and rule sets know. */
const DEFAULT_FREQUENCY_MHZ = 5785;
export const DEFAULT_BRIDGE_MHZ = 5800;
/** What a first link should have beyond the wanted margin, for what the ground will take, dB. */
const TERRAIN_RESERVE_DB = 6;

const COMMON = {
  cableLossDb: 0,
  interferenceDb: 0,
  ethernetM: 20,
  address: "",
  bracketTurned: false,
} as const;

interface FarEnd {
  distanceM: number;
  /** Gain of the far antenna toward here, or "same" where both ends will carry the same one. */
  gainDbi: number | "same";
}

/** The cheapest antenna that reaches over open ground with the wanted margin and a reserve; the largest if none does. */
function antennaThatReaches(
  world: World,
  model: RadioModel,
  antennas: AntennaModel[],
  { frequencyMHz, widthMHz }: { frequencyMHz: number; widthMHz: number },
  role: Radio["role"],
  far: FarEnd,
): AntennaModel {
  const pathDb = freeSpaceLossDb({
    distanceKm: Math.max(0.001, far.distanceM / 1000),
    frequencyGHz: frequencyMHz / 1000,
  });
  const wanted = wantedMarginDb(world.plan, frequencyMHz) + TERRAIN_RESERVE_DB;
  const gain = (antenna: AntennaModel) => peakGainDbi(antenna, frequencyMHz);
  const reaches = (antenna: AntennaModel) => {
    const power = powerWithinCapDbm(
      world,
      model,
      antenna,
      { frequencyMHz, widthMHz, cableLossDb: 0 },
      role === "bridge" ? "ptp" : "ptmp",
    );
    const farGain = far.gainDbi === "same" ? gain(antenna) : far.gainDbi;
    return power + gain(antenna) - pathDb + farGain - sensitivityDbm(model, widthMHz) >= wanted;
  };
  const largest = antennas.reduce((best, antenna) => (gain(antenna) > gain(best) ? antenna : best));
  return antennas.find(reaches) ?? largest;
}

function newRadio(
  world: World,
  makeId: () => string,
  owner: { siteId: string } | { subscriberId: string },
  role: Radio["role"],
  name: string,
  heightM: number,
  channel: {
    frequencyMHz: number;
    widthMHz?: number;
    /** Whose channel it is; the radio's own where left out. */
    carrierId?: string;
    polarization?: Radio["polarization"];
    /** Places from which the quietest channel of that band is sought; the frequency itself is kept where left out. */
    quietFor?: readonly Place[];
  },
  far: FarEnd | null,
): Radio | null {
  const model = radioModelsFor(world, role, channel.frequencyMHz).find(
    (m) => channel.widthMHz === undefined || m.widthsMHz.includes(channel.widthMHz),
  );
  const fitting = antennasFor(world, role, channel.frequencyMHz, model);
  // A new sector is turned to its first customer: what cannot be turned hears everybody and is the last resort.
  const turnable = fitting.filter(({ shape }) => shape !== "omni");
  const antennas = role === "sector" && turnable.length > 0 ? turnable : fitting;
  if (!model || antennas.length === 0) return null;
  const widthMHz = channel.widthMHz ?? (model.widthsMHz.includes(20) ? 20 : model.widthsMHz[0]!);
  const { quietFor } = channel;
  if (quietFor)
    channel = {
      ...channel,
      frequencyMHz: quietestChannelMHz(
        world,
        quietFor,
        { model, antenna: antennas[0]! },
        widthMHz,
        channel.frequencyMHz,
        role === "bridge" ? "ptp" : "ptmp",
      ),
    };
  const antenna = far
    ? antennaThatReaches(world, model, antennas, { frequencyMHz: channel.frequencyMHz, widthMHz }, role, far)
    : antennas[0]!;
  const id = makeId();
  const radio: Radio = {
    id,
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
    carrierId: channel.carrierId ?? id,
    frequencyMHz: channel.frequencyMHz,
    widthMHz,
    txPowerDbm: 0,
    ...COMMON,
    injector: model.powerInput,
    ...USUAL_CABLING,
  };
  radio.txPowerDbm = powerWithinCapDbm(world, model, antenna, radio, role === "bridge" ? "ptp" : "ptmp");
  return radio;
}

/** The radios of a plan by their sites; whoever asks for many places hands them over. */
type BySite = ReadonlyMap<string, readonly Radio[]>;

/** The site's sector that sees a place best, if any holds it within its edge. */
export function bestSector(
  world: World,
  siteId: string,
  site: Place,
  place: Place,
  bySite: BySite = radiosBySite(world),
): Radio | null {
  const bearing = inverseGeodesic(site, place).azimuthDeg;
  let best: Radio | null = null;
  let bestLoss = SECTOR_EDGE_DB;
  for (const radio of bySite.get(siteId) ?? []) {
    if (radio.role !== "sector") continue;
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
 * The patches of a first, workable link from a site to a subscriber: on the sector that already looks there, or on a new
 * one on a quiet channel turned to the customer. Null when the library has no fitting kit. Power is set to what the caps allow.
 */
export function proposeAccess(
  world: World,
  site: Site,
  subscriber: Subscriber,
  makeId: () => string,
  bySite: BySite = radiosBySite(world),
): Patch[] | null {
  const known = bestSector(world, site.id, site, subscriber, bySite);
  if (known) return proposeClient(world, known, subscriber, makeId);
  const sector = sectorTowards(world, site, subscriber, makeId);
  const put = sector && radioPatches(world, sector);
  const client = sector && proposeClient(world, sector, subscriber, makeId);
  return put && client && [...put, ...client];
}

/** A sector turned to one customer; null when the library has no kit for one. */
function sectorTowards(world: World, site: Site, subscriber: Subscriber, makeId: () => string): Radio | null {
  const azimuthDeg = Math.round(inverseGeodesic(site, subscriber).azimuthDeg) % 360;
  const name = `Sector ${subscriber.name}`.slice(0, LONGEST_NAME);
  return newSector(world, site, name, azimuthDeg, [site, subscriber], makeId);
}

/** A sector turned to an azimuth, on the channel that is quietest for some places; null when the library has no kit for one. */
function newSector(
  world: World,
  site: Site,
  name: string,
  azimuthDeg: number,
  quietFor: readonly Place[],
  makeId: () => string,
): Radio | null {
  const channel = { frequencyMHz: DEFAULT_FREQUENCY_MHZ, quietFor };
  const sector = newRadio(world, makeId, { siteId: site.id }, "sector", name, site.structureHeightM, channel, null);
  return sector && { ...sector, azimuthDeg, tiltDownDeg: 0 };
}

/** The patches of a sector that serves nobody yet. */
export function proposeSector(
  world: World,
  site: Site,
  name: string,
  azimuthDeg: number,
  makeId: () => string,
): Patch[] | null {
  const sector = newSector(world, site, name, azimuthDeg, [site], makeId);
  return sector && radioPatches(world, sector);
}

/** A customer's radio as it would be on another sector: its own kit where that fits the sector's channel, else the library's. */
export function clientOnSector(
  world: World,
  client: Pick<LinkEnd, "radio" | "model" | "antenna">,
  sector: Radio,
): { radio: Radio; model: RadioModel; keepsKit: boolean } | null {
  const { frequencyMHz, widthMHz, polarization, carrierId } = sector;
  const keepsKit =
    client.model.bandMHz[0] <= frequencyMHz &&
    frequencyMHz <= client.model.bandMHz[1] &&
    client.model.widthsMHz.includes(widthMHz);
  const model = keepsKit
    ? client.model
    : radioModelsFor(world, "subscriber", frequencyMHz).find((one) => one.widthsMHz.includes(widthMHz));
  const antenna = keepsKit ? client.antenna : antennasFor(world, "subscriber", frequencyMHz, model).at(-1);
  if (!model || !antenna) return null;
  const radio: Radio = {
    ...client.radio,
    ...{ radioModelId: model.id, antennaModelId: antenna.id, azimuthDeg: null, tiltDownDeg: null },
    ...{ carrierId, frequencyMHz, widthMHz, polarization },
  };
  radio.txPowerDbm = powerWithinCapDbm(world, model, antenna, radio, "ptmp");
  return { radio, model, keepsKit };
}

/**
 * The patches that put a customer on a sector: a link that there is moves over, else a radio and a link are new. Null when the
 * library has no fitting kit.
 */
export function attachTo(
  world: World,
  sector: Radio,
  subscriber: Subscriber,
  makeId: () => string,
): { patches: Patch[]; linkId: string } | null {
  const link = [...world.links.values()].find(
    ({ bRadioId }) => world.radios.get(bRadioId)?.subscriberId === subscriber.id,
  );
  if (!link) {
    const patches = proposeClient(world, sector, subscriber, makeId);
    return patches && { patches, linkId: patches.at(-1)!.id };
  }
  const client = clientOnSector(world, endOf(world, link.bRadioId), sector);
  return (
    client && {
      patches: [
        ...radioPatches(world, client.radio),
        setPatch("links", link.id, { aRadioId: sector.id, kind: "access", state: "planned" }),
      ],
      linkId: link.id,
    }
  );
}

/**
 * The patches that have a site serve a customer, by the sector that already looks there or by a new one turned to them. A link
 * that there is moves over. Null when the library has no fitting kit.
 */
export function attachToSite(
  world: World,
  site: Site,
  subscriber: Subscriber,
  makeId: () => string,
): { patches: Patch[]; linkId: string } | null {
  const known = bestSector(world, site.id, site, subscriber);
  if (known) return attachTo(world, known, subscriber, makeId);
  const sector = sectorTowards(world, site, subscriber, makeId);
  const attached = sector && attachTo(world, sector, subscriber, makeId);
  return attached && { ...attached, patches: [...radioPatches(world, sector!), ...attached.patches] };
}

/** A first radio for a customer on a sector, which need not be in the plan yet, and its link; the link comes last. */
function proposeClient(world: World, sector: Radio, subscriber: Subscriber, makeId: () => string): Patch[] | null {
  const site = world.sites.get(sector.siteId ?? "");
  if (!site) return null;
  const sectorAntenna = world.antennaModels.get(sector.antennaModelId)!;
  const sectorGainDbi = peakGainDbi(sectorAntenna, sector.frequencyMHz) - SECTOR_EDGE_DB / 2;
  const client = newRadio(
    world,
    makeId,
    { subscriberId: subscriber.id },
    "subscriber",
    `${subscriber.name} radio`,
    Math.min(subscriber.antennaHeightM, subscriber.maxHeightM),
    sector,
    { distanceM: inverseGeodesic(site, subscriber).distanceM, gainDbi: sectorGainDbi },
  );
  if (!client) return null;
  return [putPatch("radios", untuned(client)), linkPatch(world, makeId, "access", sector.id, client.id)];
}

/**
 * The patches of a first bridge between two sites in the band of `frequencyMHz`, on its quietest channel, with the cheapest
 * antennas that reach.
 */
export function proposeBridge(
  world: World,
  from: Site,
  to: Site,
  makeId: () => string,
  frequencyMHz = DEFAULT_BRIDGE_MHZ,
): Patch[] | null {
  const far: FarEnd = { distanceM: inverseGeodesic(from, to).distanceM, gainDbi: "same" };
  const a = newRadio(
    world,
    makeId,
    { siteId: from.id },
    "bridge",
    `Bridge to ${to.name}`,
    from.structureHeightM,
    { frequencyMHz, quietFor: [from, to] },
    far,
  );
  if (!a) return null;
  const b = newRadio(world, makeId, { siteId: to.id }, "bridge", `Bridge to ${from.name}`, to.structureHeightM, a, far);
  if (!b) return null;
  return [...radioPatches(world, a), putPatch("radios", untuned(b)), linkPatch(world, makeId, "bridge", a.id, b.id)];
}

function linkPatch(world: World, makeId: () => string, kind: Link["kind"], aRadioId: string, bRadioId: string): Patch {
  return putPatch("links", {
    id: makeId(),
    planId: world.plan.id,
    kind,
    aRadioId,
    bRadioId,
    state: "planned",
    foliageDepthM: null,
    growthStage: 1,
  });
}
