import type { EirpLimit } from "../regulation";
import { figure } from "../words";

/** Over a cap by no more than this is rounding, dB. */
const ROUNDING_DB = 0.05;

/**
 * The cap that a transmitter passes by most, the one on its EIRP or the one on the power at its port, in words, and by how
 * much, dB. Null within both.
 */
export function overCap(
  { eirpDbm, txPowerDbm }: { eirpDbm: number; txPowerDbm: number },
  { eirpCapDbm, conductedCapDbm }: Pick<EirpLimit, "eirpCapDbm" | "conductedCapDbm">,
): { words: string; byDb: number } | null {
  const eirpDb = eirpCapDbm === null ? 0 : eirpDbm - eirpCapDbm;
  const conductedDb = conductedCapDbm === null ? 0 : txPowerDbm - conductedCapDbm;
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
