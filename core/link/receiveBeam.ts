import type { Pointing } from "../aiming";
import { beamGainDb, beamTurnedDeg, type ReceiveBeam } from "../antenna";
import type { LinkEnd } from "../plan";
import type { HeardRadio, OwnNoise } from "./noise";

/** The beam with which a sector listens to each customer; null for an ordinary antenna, or a radio that cannot turn one. */
export function receiveBeamOf({ radio, model, antenna }: LinkEnd): ReceiveBeam | null {
  return radio.role === "sector" && model.steersBeam ? antenna.receiveBeam : null;
}

/** How much more a receiver hears of the customer at whom its beam looks than its ordinary pattern would, dB; 0 without a beam. */
export function beamTowardDb(to: LinkEnd, { azimuthOffDeg }: Pointing): number {
  const beam = receiveBeamOf(to);
  return beam ? beamGainDb(beam, beamTurnedDeg(beam, azimuthOffDeg), azimuthOffDeg) : 0;
}

/** How much more of one transmitter is heard while the beam looks at a customer, dB. What couples on a mast comes from no direction: the beam's whole gain counts. */
export function beamOfHeardDb(
  beam: ReceiveBeam,
  { azimuthDeg, azimuthOffDeg }: Pointing,
  { bearingDeg }: Pick<HeardRadio, "bearingDeg">,
): number {
  if (bearingDeg === null) return beam.gainDb;
  return beamGainDb(beam, beamTurnedDeg(beam, azimuthOffDeg), bearingDeg - azimuthDeg);
}

/** What a receiver hears while its beam looks at one customer, from what its ordinary pattern would let it hear. */
export function heardThroughBeam(to: LinkEnd, pointing: Pointing, heard: OwnNoise): OwnNoise {
  const beam = receiveBeamOf(to);
  if (!beam || heard.radios.length === 0) return heard;
  const radios = heard.radios
    .map((one) => ({ ...one, dbm: one.dbm + beamOfHeardDb(beam, pointing, one) }))
    .sort((x, y) => y.dbm - x.dbm);
  return {
    radios,
    faintCount: heard.faintCount,
    dbm: 10 * Math.log10(radios.reduce((sum, { dbm }) => sum + 10 ** (dbm / 10), 0)),
  };
}
