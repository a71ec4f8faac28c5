import { beamwidthDeg } from "../antenna";
import { bracketReach, tiltBeyondBracketDeg } from "../aiming";
import { declinationDeg, normalizeAzimuthDeg, type Place } from "../geodesy";
import type { PathAnswer } from "../link";
import type { LinkEnd, Plan } from "../plan";

/** What a crew needs at one end. */
export interface CrewEnd {
  placeName: string;
  place: Place;
  /** What the site's record names as dangers and as the way there. */
  hazards: string;
  access: string;
  radioName: string;
  radioModel: string;
  antennaModel: string;
  heightM: number;
  headingTrueDeg: number;
  /** Null outside the years of the magnetic model. */
  headingMagneticDeg: number | null;
  declinationDeg: number | null;
  tiltDownDeg: number;
  bracketDownDeg: number;
  bracketUpDeg: number;
  bracketBeyondDeg: number;
  polarization: string;
  frequencyMHz: number;
  widthMHz: number;
  txPowerDbm: number;
  expectedDbm: number;
  expectedPerChainDbm: number | null;
  toleranceDb: number;
  /** Volts at the alignment jack at the expected level and at its lower bound, where the radio has one. */
  meterVolts: { expected: number; least: number } | null;
  sweepDeg: number;
}

function crewEnd(plan: Plan, end: LinkEnd, answer: PathAnswer, isA: boolean, bearingDeg: number, date: Date): CrewEnd {
  const tape = isA ? answer.bToA : answer.aToB;
  const pointing = isA ? answer.aPointing : answer.bPointing;
  const amslM = isA ? answer.aAmslM : answer.bAmslM;
  // A sector keeps its own heading; the far end's bearing is only where the customer stands in it.
  const headingTrueDeg = end.radio.azimuthDeg ?? bearingDeg;
  const declination = declinationDeg(end.place, amslM, date);
  const perChain = end.model.chains > 1 ? tape.levelDbm - 10 * Math.log10(end.model.chains) : null;
  const volts = end.model.meterVoltsPerDbm;
  return {
    placeName: end.placeName,
    hazards: end.hazards,
    access: end.access,
    place: { latDeg: end.place.latDeg, lonDeg: end.place.lonDeg },
    radioName: end.radio.name,
    radioModel: `${end.model.maker} ${end.model.model}`,
    antennaModel: `${end.antenna.maker} ${end.antenna.model}`,
    heightM: end.radio.heightM,
    headingTrueDeg,
    headingMagneticDeg: declination === null ? null : normalizeAzimuthDeg(headingTrueDeg - declination),
    declinationDeg: declination,
    tiltDownDeg: pointing.mechanicalTiltDownDeg,
    bracketDownDeg: bracketReach(end).downDeg,
    bracketUpDeg: bracketReach(end).upDeg,
    bracketBeyondDeg: tiltBeyondBracketDeg(end, pointing.mechanicalTiltDownDeg),
    polarization: end.radio.polarization,
    frequencyMHz: end.radio.frequencyMHz,
    widthMHz: end.radio.widthMHz,
    txPowerDbm: end.radio.txPowerDbm,
    expectedDbm: tape.levelDbm,
    expectedPerChainDbm: perChain,
    toleranceDb: plan.proofDeviationDb,
    meterVolts:
      volts === null
        ? null
        : { expected: volts * tape.levelDbm, least: volts * (tape.levelDbm - plan.proofDeviationDb) },
    sweepDeg: Math.min(180, Math.ceil(beamwidthDeg(end.antenna.azimuthCuts.V, 3) * 2.5)),
  };
}

/** Both ends' sheets for an answered path; magnetic headings are for `date`. */
export function crewSheet(
  plan: Plan,
  a: LinkEnd,
  b: LinkEnd,
  answer: PathAnswer,
  bearings: { azimuthDeg: number; backAzimuthDeg: number },
  date: Date,
): { a: CrewEnd; b: CrewEnd } {
  return {
    a: crewEnd(plan, a, answer, true, bearings.azimuthDeg, date),
    b: crewEnd(plan, b, answer, false, bearings.backAzimuthDeg, date),
  };
}
