import type { LinkAnswer } from "../link";
import { isLinkServed } from "../outcome";
import type { Link, World } from "../plan";

/** One customer of a sector, every figure from the tapes of his link. */
export interface SectorCustomer {
  linkId: string;
  subscriberId: string;
  name: string;
  people: number;
  bearingDeg: number;
  distanceM: number;
  /** Angle below the horizontal at which the sector sees him, degrees. */
  tiltDownDeg: number;
  /** Off the sector's heading, and over (positive: under) the middle of its beam there, degrees. */
  azimuthOffDeg: number;
  elevationOffDeg: number;
  /** What the sector's pattern costs him, dB. */
  patternLossDb: number;
  isServed: boolean;
  /** Weaker direction's margin left, dB. */
  marginLeftDb: number;
  /** Toward him and back. */
  downMbps: number;
  upMbps: number;
  levelDownDbm: number;
  levelUpDbm: number;
  /** Share of the sector's time that his demand takes, the busier direction; null where he can get nothing. */
  airtime: number | null;
}

/** A customer of a sector from his link's answer; null where that has none. */
export function sectorCustomer(world: World, link: Link, answer: LinkAnswer): SectorCustomer | null {
  const { path, distanceM } = answer;
  const subscriber = world.subscribers.get(world.radios.get(link.bRadioId)?.subscriberId ?? "");
  if (!path || !subscriber) return null;
  const { aToB, bToA, aPointing, aTiltDownDeg } = path;
  const isReached = aToB.rateMbps > 0 && bToA.rateMbps > 0;
  return {
    linkId: link.id,
    subscriberId: subscriber.id,
    name: subscriber.name,
    people: subscriber.people,
    bearingDeg: aPointing.azimuthDeg + aPointing.azimuthOffDeg,
    distanceM,
    tiltDownDeg: aTiltDownDeg,
    azimuthOffDeg: aPointing.azimuthOffDeg,
    elevationOffDeg: aPointing.elevationOffDeg,
    patternLossDb: aToB.fromOffDb,
    isServed: isLinkServed(world, link, answer),
    marginLeftDb: Math.min(aToB.marginLeftDb, bToA.marginLeftDb),
    downMbps: aToB.rateMbps,
    upMbps: bToA.rateMbps,
    levelDownDbm: aToB.chainLevelDbm,
    levelUpDbm: bToA.chainLevelDbm,
    airtime: isReached
      ? Math.max(subscriber.demandMbps / aToB.rateMbps, subscriber.demandUpMbps / bToA.rateMbps)
      : null,
  };
}
