import { patternLossDb, peakGainDbi } from "../antenna";
import { flatM, inverseGeodesic, type Place } from "../geodesy";
import { powerWithinCapDbm } from "../kit";
import { couplingOf, radiosOnMasts, type OnMast } from "../mast";
import type { LinkEnd, World } from "../plan";
import { freeSpaceLossDb, thermalNoiseDbm } from "../propagation";
import { isChannelInBand, sendsOnMHz } from "../radio";
import { capsFor, type RuleUse } from "../regulation";
import { channelCouplingDb, channelNoise, channelsMeet } from "../spectrum";
import { SHORTEST_PATH_M } from "../terrain";
import { channelsMHz } from "./channels";
import { UNTURNED } from "./choosing";

/** Channels whose EIRP lies so far under the best one's are not offered, dB. */
const MOST_LESS_DB = 25;
/** Masts farther away than this are not heard, m. */
const FARTHEST_M = 40_000;
/** What is less apart is as good, dB. */
const ALIKE_DB = 0.5;
/** One chain hears half of two. */
const CHAIN_DB = 10 * Math.log10(2);

type Kit = Pick<LinkEnd, "model" | "antenna">;

/** A place from which a new radio would listen: where it stands, and the way it would look; null where that is not known. */
interface Listener {
  place: Place;
  siteId: string | null;
  headingDeg: number | null;
}

/** Where the new radios would stand; two places look at each other. */
function listenersAt(world: World, places: readonly Place[]): Listener[] {
  return places.map((place, i) => {
    const other = places.length === 2 ? places[1 - i]! : null;
    const id = "id" in place && typeof place.id === "string" ? place.id : null;
    return {
      place,
      siteId: id !== null && world.sites.has(id) ? id : null,
      headingDeg: other && inverseGeodesic(place, other).azimuthDeg,
    };
  });
}

/** What all masts of a plan put into one listener's antenna, by the channel on which it is sent. */
type Loudness = Map<string, { frequencyMHz: number; widthMHz: number; milliwatts: number }>;

/** Power of every mast's transmitters on one chain at a listener, as if it stood on their channel: patterns and free space, or the coupling on a shared mast. */
function loudnessAt(
  world: World,
  { place, siteId, headingDeg }: Listener,
  { antenna }: Kit,
  hung: readonly OnMast[],
): Loudness {
  const loudness: Loudness = new Map();
  const site = siteId === null ? null : world.sites.get(siteId)!;
  for (const { end, headingDeg: sent, isNear } of hung) {
    const fromHeadingDeg = sent ?? 0;
    const sendsMHz = sendsOnMHz(end.model, end.radio.frequencyMHz, isNear);
    const { txPowerDbm, cableLossDb, polarization, widthMHz } = end.radio;
    const distanceM = flatM(end.place, place);
    if (distanceM > FARTHEST_M) continue;
    let levelDbm = txPowerDbm - cableLossDb - CHAIN_DB;
    if (distanceM < SHORTEST_PATH_M) {
      const own = {
        radio: { ...end.radio, ...UNTURNED, heightM: site?.structureHeightM ?? end.radio.heightM },
        antenna,
      };
      levelDbm -= couplingOf(end, fromHeadingDeg, own, headingDeg ?? fromHeadingDeg, sendsMHz).isolationDb;
    } else {
      const way = inverseGeodesic(end.place, place);
      const ownOffDb = headingDeg === null ? 0 : patternLossDb(antenna, "HV", way.backAzimuthDeg - headingDeg, 0);
      levelDbm +=
        peakGainDbi(end.antenna, sendsMHz, polarization) -
        patternLossDb(end.antenna, polarization, way.azimuthDeg - fromHeadingDeg, 0) -
        freeSpaceLossDb({ distanceKm: distanceM / 1000, frequencyGHz: sendsMHz / 1000 }) +
        peakGainDbi(antenna, sendsMHz) -
        ownOffDb;
    }
    const key = `${sendsMHz} ${widthMHz}`;
    const known = loudness.get(key) ?? { frequencyMHz: sendsMHz, widthMHz, milliwatts: 0 };
    known.milliwatts += 10 ** (levelDbm / 10);
    loudness.set(key, known);
  }
  return loudness;
}

/**
 * The channels that the rules leave open to a radio of some kit, best first: by the EIRP that may be sent there less the noise at the
 * places where it would listen. Noise is thermal, what scans at the place heard, and the plan's own transmitters on masts by their patterns
 * and free space, those of a shared mast by its coupling; ground between is not looked at. The preferred channel comes before what is as good.
 */
export function quietChannelsMHz(
  world: World,
  places: readonly Place[],
  kit: Kit,
  widthMHz: number,
  preferredMHz: number,
  use: RuleUse,
): [number, ...number[]] {
  const { model, antenna } = kit;
  const sends = (frequencyMHz: number) =>
    powerWithinCapDbm(world, { model, antenna, radio: { frequencyMHz, widthMHz, ...UNTURNED } }, use) +
    peakGainDbi(antenna, frequencyMHz);
  const open = channelsMHz(world, use, widthMHz).filter(
    (centre) =>
      isChannelInBand(model, centre, widthMHz) && centre >= antenna.bandMHz[0] && centre <= antenna.bandMHz[1],
  );
  const preferred = { radio: { frequencyMHz: preferredMHz, widthMHz, ...UNTURNED }, antenna, behind: "none" } as const;
  const isPreferredOpen = capsFor(world.plan, preferred, use).closed === null;
  const all = [...new Set([...(isPreferredOpen || open.length === 0 ? [preferredMHz] : []), ...open])];
  const eirp = new Map(all.map((centre) => [centre, sends(centre)]));
  const most = Math.max(...eirp.values());
  const choices = all.filter((centre) => eirp.get(centre)! >= most - MOST_LESS_DB);
  const hung = radiosOnMasts(world);
  const thermalMw = 10 ** (thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: model.noiseFigureDb }) / 10);
  const listeners = listenersAt(world, places).map((one) => ({
    ...one,
    loudness: [...loudnessAt(world, one, kit, hung).values()],
    scans: world.scansBySite.get(one.siteId ?? "") ?? [],
  }));
  const noiseMw = (centre: number) =>
    listeners.reduce((sum, { headingDeg, loudness, scans }) => {
      let milliwatts = thermalMw;
      for (const { frequencyMHz, widthMHz: txWidthMHz, milliwatts: sent } of loudness) {
        if (!channelsMeet({ frequencyMHz, widthMHz: txWidthMHz }, { frequencyMHz: centre, widthMHz })) continue;
        const offsetMHz = frequencyMHz - centre;
        const rejectionDb = model.adjacentRejectionDb;
        milliwatts +=
          sent * 10 ** (channelCouplingDb({ offsetMHz, txWidthMHz, rxWidthMHz: widthMHz, rejectionDb }) / 10);
      }
      const scanned = scans.flatMap((scan) => {
        const headed = headingDeg ?? scan.headingDeg;
        const found = channelNoise([scan], { headingDeg: headed, polarization: "HV", frequencyMHz: centre, widthMHz });
        return found ? [10 ** ((found.powerDbm + peakGainDbi(antenna, centre) - scan.gainDbi) / 10)] : [];
      });
      return sum + milliwatts + Math.max(0, ...scanned);
    }, 0) / Math.max(1, listeners.length);
  const worth = choices.map((centre) => ({ centre, dB: eirp.get(centre)! - 10 * Math.log10(noiseMw(centre)) }));
  worth.sort((x, y) => y.dB - x.dB);
  const preferredAt = worth.findIndex(({ centre }) => centre === preferredMHz);
  if (preferredAt > 0 && worth[preferredAt]!.dB > worth[0]!.dB - ALIKE_DB)
    worth.unshift(...worth.splice(preferredAt, 1));
  return worth.map(({ centre }) => centre) as [number, ...number[]];
}

export const quietestChannelMHz = (...ask: Parameters<typeof quietChannelsMHz>): number => quietChannelsMHz(...ask)[0];
