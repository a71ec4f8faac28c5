import { beamwidthDeg } from "../antenna";
import { bracketReach, tiltBeyondBracketDeg } from "../aiming";
import { declinationDeg, normalizeAzimuthDeg, type Place } from "../geodesy";
import { chainWords, type PathAnswer } from "../link";
import type { LinkEnd, Plan, Procedure } from "../plan";
import { procedureFor, type StepsOfEnd } from "../procedures";
import { powerSettingText, powerToSet, type PowerToSet } from "../radio";
import { figure } from "../words";

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
  /** The same in TDD; in FDD each end sends on the frequency that the other listens to. */
  sendsMHz: number;
  listensMHz: number;
  widthMHz: number;
  /** The number to set its power to, and which power that is. */
  powerToSet: PowerToSet;
  /** At which it will send, all chains together; `turnedDownDb` under what it is set to, where its access point turns it down. */
  txPowerDbm: number;
  turnedDownDb: number;
  /** Level on a chain, which chain that is in words, and the level of all chains together. */
  expectedChainDbm: number;
  chain: string;
  expectedTotalDbm: number;
  /** Levels on a chain that are accepted: the band about the expected one, ending where the receiver is overloaded. */
  accept: { fromDbm: number; toDbm: number; endsAtOverload: boolean };
  /** Volts at the alignment jack, where the radio has one: expected, the band, and the way in which more signal moves them. */
  meterVolts: { expected: number; low: number; high: number; stronger: "lower" | "higher" } | null;
  sweepDeg: number;
  /** Chains of the radio. */
  chains: number;
  /** The order of the work, and whose procedures it is made of. */
  work: StepsOfEnd;
}

/** Width of the channel, and what to set the power to, in words. */
export function sendingWords({ widthMHz, powerToSet: setTo, txPowerDbm, turnedDownDb }: CrewEnd): string {
  const set = `${figure(widthMHz, 0)} MHz wide, power set to ${powerSettingText(setTo)}`;
  return turnedDownDb > 0
    ? `${set} at most: the access point turns it down to ${figure(txPowerDbm)} dBm, all chains together`
    : set;
}

function crewEnd(
  plan: Plan,
  end: LinkEnd,
  answer: PathAnswer,
  isA: boolean,
  bearingDeg: number,
  date: Date,
  own: Iterable<Procedure>,
): CrewEnd {
  const tape = isA ? answer.bToA : answer.aToB;
  const pointing = isA ? answer.aPointing : answer.bPointing;
  const amslM = isA ? answer.aAmslM : answer.bAmslM;
  // A sector keeps its own heading; the far end's bearing is only where the customer stands in it.
  const headingTrueDeg = end.radio.azimuthDeg ?? bearingDeg;
  const declination = declinationDeg(end.place, amslM, date);
  const sending = isA ? answer.aToB : answer.bToA;
  const volts = end.model.meterVoltsPerDbm;
  const { chainLevelDbm } = tape;
  const { overloadDbm } = end.model;
  const looks = pointing.mechanicalTiltDownDeg >= 0 ? "down" : "up";
  const fromDbm = chainLevelDbm - plan.proofDeviationDb;
  const endsAtOverload = overloadDbm < chainLevelDbm + plan.proofDeviationDb;
  const toDbm = endsAtOverload ? Math.max(fromDbm, overloadDbm) : chainLevelDbm + plan.proofDeviationDb;
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
    sendsMHz: sending.question.path.frequencyMHz,
    listensMHz: tape.question.path.frequencyMHz,
    widthMHz: end.radio.widthMHz,
    powerToSet: powerToSet(end.model, end.radio.polarization, end.radio.txPowerDbm),
    txPowerDbm: sending.question.from.radio.txPowerDbm,
    turnedDownDb: sending.question.turnedDownDb,
    expectedChainDbm: chainLevelDbm,
    chain: chainWords(tape),
    expectedTotalDbm: tape.totalLevelDbm,
    accept: { fromDbm, toDbm, endsAtOverload },
    meterVolts:
      volts === null
        ? null
        : {
            expected: volts * chainLevelDbm,
            low: Math.min(volts * fromDbm, volts * toDbm),
            high: Math.max(volts * fromDbm, volts * toDbm),
            stronger: volts < 0 ? "lower" : "higher",
          },
    sweepDeg: Math.min(180, Math.ceil(beamwidthDeg(end.antenna.azimuthCuts.V, 3) * 2.5)),
    chains: end.model.chains,
    work: procedureFor(end, { ruleSetId: plan.ruleSetId, looks }, own),
  };
}

/** Both ends' sheets for an answered path; magnetic headings are for `date`, `own` are the procedures of the plan's library. */
export function crewSheet(
  plan: Plan,
  a: LinkEnd,
  b: LinkEnd,
  answer: PathAnswer,
  bearings: { azimuthDeg: number; backAzimuthDeg: number },
  date: Date,
  own: readonly Procedure[] = [],
): { a: CrewEnd; b: CrewEnd } {
  return {
    a: crewEnd(plan, a, answer, true, bearings.azimuthDeg, date, own),
    b: crewEnd(plan, b, answer, false, bearings.backAzimuthDeg, date, own),
  };
}
