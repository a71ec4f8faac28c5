import { lossAbove30Db, peakGainDbi, type AntennaModel, type Polarization } from "../antenna";
import { figure } from "../words";
import { eirpLimit, FLAG_WORDS, limitReason, type EirpLimit, type Rule, type RuleSet } from "./rules";
import { ruleSetOf } from "./ruleSets";

/** The kind of service that rules tell apart: a fixed bridge, or anything else. */
export type RuleUse = "ptp" | "ptmp";

/** The use of a link, or of a radio by its role. */
export const ruleUse = (kind: "access" | "bridge" | "sector" | "subscriber"): RuleUse =>
  kind === "bridge" ? "ptp" : "ptmp";

/** As much of a link's end as caps depend on. */
export interface CappedEnd {
  radio: {
    frequencyMHz: number;
    widthMHz: number;
    polarization: Polarization;
    cableLossDb: number;
    /** Tilt of the bracket; null aims at the other end of the link. */
    tiltDownDeg: number | null;
  };
  antenna: AntennaModel;
  /** Wall or glass in front of the antenna: "none" is outdoors. */
  behind: "none" | "traditional" | "thermally_efficient";
}

/** The plan whose rules count, or a rule set itself. */
type Rules = { ruleSetId: string; ownRules: readonly Rule[] } | RuleSet;

const ruleSetIn = (rules: Rules): RuleSet => ("ruleSetId" in rules ? ruleSetOf(rules) : rules);

export interface Caps {
  limit: EirpLimit;
  /** Peak gain of the antenna on its polarization, dBi. */
  gainDbi: number;
  /** The most conducted power that the caps allow, all chains together, dBm; Infinity where none bites. */
  mostPowerDbm: number;
  /** Why the channel is closed to this end whatever the power: no rule, too small an antenna, indoor use only. Null where it is open. */
  closed: string | null;
}

/**
 * Everything that the rules say of one transmitter: caps on EIRP, conducted power and density by use, width and antenna gain on its
 * polarization; the mask above 30° elevation over the whole pattern; and spectrum kept for indoor use. Powers count all chains together:
 * chains carry streams of their own, so no gain of an array is added. `frequencyMHz` is what the end sends on, where that is not the
 * channel's own (FDD); `mechanicalTiltDownDeg` the tilt of its bracket, where the path tells it.
 */
export function capsFor(
  rules: Rules,
  { radio, antenna, behind }: CappedEnd,
  use: RuleUse,
  {
    frequencyMHz = radio.frequencyMHz,
    mechanicalTiltDownDeg = radio.tiltDownDeg ?? -antenna.electricalTiltDownDeg,
  }: { frequencyMHz?: number; mechanicalTiltDownDeg?: number } = {},
): Caps {
  const gainDbi = peakGainDbi(antenna, frequencyMHz, radio.polarization);
  const limit = eirpLimit({
    ruleSet: ruleSetIn(rules),
    frequencyMHz,
    widthMHz: radio.widthMHz,
    use,
    antennaGainDbi: gainDbi,
    lossAbove30Db: () => lossAbove30Db(antenna, radio.polarization, mechanicalTiltDownDeg),
  });
  const { eirpCapDbm, conductedCapDbm, covered, flags, source } = limit;
  const isIndoorOnly = flags.includes("indoorOnly") && behind === "none";
  return {
    limit,
    gainDbi,
    mostPowerDbm: Math.min(
      conductedCapDbm ?? Infinity,
      eirpCapDbm === null ? Infinity : eirpCapDbm - gainDbi + radio.cableLossDb,
    ),
    closed: !covered
      ? limitReason(limit)
      : isIndoorOnly
        ? `${frequencyMHz} MHz, ${source}: ${FLAG_WORDS.indoorOnly}`
        : null,
  };
}

/** Whether the rules let an operator use a channel: no licence is asked for, or one that covers all of the channel is entered. */
export const isLicensed = (
  { licences }: { licences: readonly { lowMHz: number; highMHz: number }[] },
  { licence }: Pick<EirpLimit, "licence">,
  { frequencyMHz, widthMHz }: { frequencyMHz: number; widthMHz: number },
): boolean =>
  licence === "exempt" ||
  licences.some(
    ({ lowMHz, highMHz }) => lowMHz <= frequencyMHz - widthMHz / 2 && highMHz >= frequencyMHz + widthMHz / 2,
  );

/** Over a cap by no more than this is rounding, dB. */
const ROUNDING_DB = 0.05;

/**
 * The cap that a transmitter exceeds most, on its EIRP or on its conducted power, in words, and by how much, dB. Null within both.
 */
export function overCap(
  { eirpDbm, txPowerDbm }: { eirpDbm: number; txPowerDbm: number },
  { eirpCapDbm, conductedCapDbm }: Pick<EirpLimit, "eirpCapDbm" | "conductedCapDbm">,
): { words: string; byDb: number } | null {
  const eirpDb = eirpCapDbm === null ? -Infinity : eirpDbm - eirpCapDbm;
  const conductedDb = conductedCapDbm === null ? -Infinity : txPowerDbm - conductedCapDbm;
  const byDb = Math.max(eirpDb, conductedDb);
  if (byDb <= ROUNDING_DB) return null;
  return {
    byDb,
    words:
      eirpDb >= conductedDb
        ? `${figure(eirpDbm)} dBm EIRP against ${figure(eirpCapDbm!)} dBm`
        : `${figure(txPowerDbm)} dBm at the radio's port against ${figure(conductedCapDbm!)} dBm`,
  };
}
