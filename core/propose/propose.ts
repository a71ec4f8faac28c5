import { patternLossDb, peakGainDbi } from "../antenna";
import { inverseGeodesic, signedAngleDeg, type Geodesic, type Place } from "../geodesy";
import {
  endOf,
  LONGEST_NAME,
  putPatch,
  radioPatches,
  requiredRates,
  setPatch,
  untuned,
  type Link,
  type LinkEnd,
  type Patch,
  type Radio,
  type Site,
  type Subscriber,
  type World,
  USUAL,
} from "../plan";
import { wantedMarginDb } from "../link";
import { freeSpaceLossDb } from "../propagation";
import { airRateMbps, frameShare, sensitivityDbm, type Modulation, type RadioModel } from "../radio";
import { ruleUse, type RuleUse } from "../regulation";
import { channelsMHz } from "./channels";
import { quietestChannelMHz } from "./quiet";
import { choosingIn, type Choosing, type Kit, type Sending } from "./choosing";
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
  /** What the link must carry either way, Mbit/s, where that is known: the kit is chosen to carry it. */
  mustMbps?: number;
}

/** What a radio carries in its slower direction with one modulation, Mbit/s. */
const carriesMbps = (model: RadioModel, widthMHz: number, { bitsPerHz }: Modulation): number =>
  Math.min(
    model.portMbps ?? Infinity,
    airRateMbps({
      bitsPerHz,
      widthMHz,
      chains: model.chains,
      efficiency: model.efficiency,
      share: Math.min(frameShare(model, "down"), frameShare(model, "up")),
    }),
  );

/** The narrowest channel of a radio on which it can carry so much; its widest where none does. */
function widthFor(world: World, model: RadioModel, use: RuleUse, mustMbps: number): number {
  const [low, high] = model.bandMHz;
  const open = model.widthsMHz
    .filter((width) => channelsMHz(world, use, width).some((mhz) => mhz - width / 2 >= low && mhz + width / 2 <= high))
    .sort((x, y) => x - y);
  const enough = open.find((width) => carriesMbps(model, width, model.modulations.at(-1)!) >= mustMbps);
  return enough ?? open.at(-1) ?? model.widthsMHz[0]!;
}

/** The cheapest antenna that reaches over open ground with the wanted margin and a reserve; the largest if none does. */
function thatReaches(
  world: World,
  { model, widthMHz, sendingOn }: Kit,
  frequencyMHz: number,
  { distanceM, gainDbi: farDbi, mustMbps = 0 }: FarEnd,
): Sending {
  const pathDb = freeSpaceLossDb({ distanceKm: Math.max(0.001, distanceM / 1000), frequencyGHz: frequencyMHz / 1000 });
  const fast =
    model.modulations.find((one) => carriesMbps(model, widthMHz, one) >= mustMbps) ?? model.modulations.at(-1)!;
  const rateDbm =
    mustMbps > 0 ? sensitivityDbm(model, widthMHz, fast) + fast.backoffDb + 10 * Math.log10(model.chains) : -Infinity;
  const holdsDbm = sensitivityDbm(model, widthMHz) + wantedMarginDb(world.plan, frequencyMHz);
  const wantedDbm = Math.max(holdsDbm, rateDbm) + TERRAIN_RESERVE_DB + pathDb;
  const all = sendingOn(frequencyMHz);
  return (
    all.find(({ gainDbi, powerDbm }) => powerDbm + gainDbi + (farDbi === "same" ? gainDbi : farDbi) >= wantedDbm) ??
    all.reduce((best, one) => (one.gainDbi > best.gainDbi ? one : best))
  );
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
    /** Whose channel it is, with its power plan and timing; the radio's own, with neither, where left out. */
    carrierId?: string;
    arriveAtDbm?: Radio["arriveAtDbm"];
    timingGroup?: Radio["timingGroup"];
    downShare?: Radio["downShare"];
    polarization?: Radio["polarization"];
    /** Places from which the quietest channel of that band is sought; the frequency itself is kept where left out. */
    quietFor?: readonly Place[];
  },
  far: FarEnd | null,
  { kitFor } = choosingIn(world),
): Radio | null {
  const usual = kitFor(role, channel.frequencyMHz, channel.widthMHz);
  if (!usual) return null;
  const mustMbps = far?.mustMbps ?? 0;
  const kit =
    mustMbps > 0 && channel.widthMHz === undefined
      ? (kitFor(role, channel.frequencyMHz, widthFor(world, usual.model, ruleUse(role), mustMbps)) ?? usual)
      : usual;
  const { model, widthMHz, antennas } = kit;
  const use = role === "bridge" ? "ptp" : "ptmp";
  const frequencyMHz = channel.quietFor
    ? quietestChannelMHz(world, channel.quietFor, { model, antenna: antennas[0] }, widthMHz, channel.frequencyMHz, use)
    : channel.frequencyMHz;
  const { antenna, powerDbm } = far ? thatReaches(world, kit, frequencyMHz, far) : kit.sendingOn(frequencyMHz)[0];
  const id = makeId();
  return {
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
    frequencyMHz,
    widthMHz,
    arriveAtDbm: channel.arriveAtDbm ?? null,
    timingGroup: channel.timingGroup ?? "",
    downShare: channel.downShare ?? null,
    txPowerDbm: powerDbm,
    ...COMMON,
    injector: model.powerInput,
    ...USUAL.radios,
  };
}

/** The site's sector that sees a place best, if any holds it within its edge; `way` is the way there from the site. */
export function bestSector(
  world: World,
  site: Site,
  place: Place,
  { radiosAt, kitFor }: Choosing = choosingIn(world),
  { azimuthDeg: bearing }: Pick<Geodesic, "azimuthDeg"> = inverseGeodesic(site, place),
): Radio | null {
  let best: Radio | null = null;
  let bestLoss = SECTOR_EDGE_DB;
  for (const radio of radiosAt(site.id)) {
    if (radio.role !== "sector") continue;
    const antenna = world.antennaModels.get(radio.antennaModelId);
    if (!antenna) continue;
    const loss = patternLossDb(antenna, radio.polarization, signedAngleDeg(bearing - (radio.azimuthDeg ?? bearing)), 0);
    if (loss > bestLoss || !kitFor("subscriber", radio.frequencyMHz)) continue;
    best = radio;
    bestLoss = loss;
  }
  return best;
}

/** A link that is not in the plan yet, and those of its radios that are not either: whoever owns the channel comes first. */
export interface Proposed {
  radios: Radio[];
  link: Link;
}

/** The patches that put a proposed link into a plan; the link comes last. */
function patchesOf(world: World, proposed: Proposed | null): Patch[] | null {
  if (!proposed) return null;
  const { radios, link } = proposed;
  return [
    ...radios.flatMap((radio) =>
      radio.carrierId === radio.id ? radioPatches(world, radio) : [putPatch("radios", untuned(radio))],
    ),
    putPatch("links", link),
  ];
}

/**
 * A first, workable link from a site to a subscriber: on the sector that already looks there, or on a new one on a quiet channel
 * turned to the customer. Null when the library has no fitting kit. Power is set to what the caps allow.
 */
export function firstAccess(
  world: World,
  site: Site,
  subscriber: Subscriber,
  makeId: () => string,
  choosing: Choosing = choosingIn(world),
  way: Geodesic = inverseGeodesic(site, subscriber),
): Proposed | null {
  const known = bestSector(world, site, subscriber, choosing, way);
  if (known) return firstClient(world, known, subscriber, way.distanceM, makeId, choosing);
  const sector = sectorTowards(world, site, subscriber, way, makeId);
  const client = sector && firstClient(world, sector, subscriber, way.distanceM, makeId, choosing);
  return client && { ...client, radios: [sector!, ...client.radios] };
}

/** The patches of that first link, the link last. */
export const proposeAccess = (world: World, site: Site, subscriber: Subscriber, makeId: () => string): Patch[] | null =>
  patchesOf(world, firstAccess(world, site, subscriber, makeId));

/** A sector turned to one customer; null when the library has no kit for one. */
function sectorTowards(
  world: World,
  site: Site,
  subscriber: Subscriber,
  way: Geodesic,
  makeId: () => string,
): Radio | null {
  const azimuthDeg = Math.round(way.azimuthDeg) % 360;
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
  radio.txPowerDbm = powerWithinCapDbm(world, { model, antenna, radio }, "ptmp");
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
    const site = world.sites.get(sector.siteId ?? "");
    const distanceM = site && inverseGeodesic(site, subscriber).distanceM;
    const first =
      distanceM === undefined ? null : firstClient(world, sector, subscriber, distanceM, makeId, choosingIn(world));
    const patches = patchesOf(world, first);
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
  const way = inverseGeodesic(site, subscriber);
  const known = bestSector(world, site, subscriber, choosingIn(world), way);
  if (known) return attachTo(world, known, subscriber, makeId);
  const sector = sectorTowards(world, site, subscriber, way, makeId);
  const attached = sector && attachTo(world, sector, subscriber, makeId);
  return attached && { ...attached, patches: [...radioPatches(world, sector!), ...attached.patches] };
}

/** A first radio for a customer on a sector, which need not be in the plan yet, and its link. */
export function firstClient(
  world: World,
  sector: Radio,
  subscriber: Subscriber,
  distanceM: number,
  makeId: () => string,
  choosing: Choosing,
): Proposed | null {
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
    { distanceM, gainDbi: sectorGainDbi },
    choosing,
  );
  return client && { radios: [client], link: newLink(world, makeId, "access", sector.id, client.id) };
}

/**
 * What a new bridge between two sites must carry either way, Mbit/s: as `requiredRates` says of the plan with it; 0 where that is not known.
 */
function newBridgeMbps(world: World, from: Site, to: Site): number {
  const end = (siteId: string): Radio => ({ id: `${siteId} new`, siteId, subscriberId: null }) as Radio;
  const [a, b] = [end(from.id), end(to.id)];
  const link = newLink(world, () => "new bridge", "bridge", a.id, b.id);
  const required = requiredRates({
    plan: world.plan,
    subscribers: world.subscribers,
    sites: new Map([...world.sites, [from.id, from], [to.id, to]]),
    radios: new Map([...world.radios, [a.id, a], [b.id, b]]),
    links: new Map([...world.links, [link.id, link]]),
  }).get(link.id);
  return required ? Math.max(required.downMbps, required.upMbps) : 0;
}

/** A first bridge between two sites in the band of `frequencyMHz`, on its quietest channel, with the cheapest antennas that reach. */
export function firstBridge(
  world: World,
  from: Site,
  to: Site,
  makeId: () => string,
  frequencyMHz = DEFAULT_BRIDGE_MHZ,
): Proposed | null {
  const mustMbps = newBridgeMbps(world, from, to);
  const far: FarEnd = { distanceM: inverseGeodesic(from, to).distanceM, gainDbi: "same", mustMbps };
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
  return b && { radios: [a, b], link: newLink(world, makeId, "bridge", a.id, b.id) };
}

/** The patches of that first bridge, the link last. */
export const proposeBridge = (
  world: World,
  from: Site,
  to: Site,
  makeId: () => string,
  frequencyMHz = DEFAULT_BRIDGE_MHZ,
): Patch[] | null => patchesOf(world, firstBridge(world, from, to, makeId, frequencyMHz));

function newLink(world: World, makeId: () => string, kind: Link["kind"], aRadioId: string, bRadioId: string): Link {
  return {
    id: makeId(),
    planId: world.plan.id,
    kind,
    aRadioId,
    bRadioId,
    state: "planned",
    foliageDepthM: null,
    ...USUAL.links,
  };
}
