/** One copper conductor at 20 °C, Ω/m, by its gauge. */
const OHM_PER_M: Readonly<Record<number, number>> = { 22: 0.05296, 23: 0.06679, 24: 0.08422, 26: 0.1339 };
/** Of copper at 20 °C, Ω·mm²/m. */
const OHM_MM2_PER_M = 0.01724;
/** How the resistance of copper rises, per kelvin. */
const PER_KELVIN = 0.00393;

/** What arrives at a load, and what its cable takes. */
interface Drop {
  voltsAtLoad: number;
  amps: number;
  lossW: number;
}

/**
 * What arrives at a load that always takes the same power, over a data cable: the lower its voltage the more current it draws. Null where the
 * cable cannot carry it: more would be lost than arrives. Two or four pairs carry the current, each there or back.
 * Throws RangeError for a gauge that is not in the table.
 */
export function poeDrop({
  sourceV,
  loadW,
  cableM,
  awg,
  pairs,
  temperatureC,
}: {
  sourceV: number;
  loadW: number;
  cableM: number;
  awg: number;
  pairs: 2 | 4;
  temperatureC: number;
}): Drop | null {
  const ohmPerM = OHM_PER_M[awg];
  if (ohmPerM === undefined)
    throw new RangeError(`awg is ${awg}; it must be one of ${Object.keys(OHM_PER_M).join(", ")}`);
  return dropOver(((2 * ohmPerM * cableM) / pairs) * warmer(temperatureC), sourceV, loadW);
}

/** What arrives at such a load over a lead of two conductors of its own, each of `leadMm2`. */
export function leadDrop({
  sourceV,
  loadW,
  leadM,
  leadMm2,
  temperatureC,
}: {
  sourceV: number;
  loadW: number;
  leadM: number;
  leadMm2: number;
  temperatureC: number;
}): Drop | null {
  return dropOver(((2 * OHM_MM2_PER_M * leadM) / leadMm2) * warmer(temperatureC), sourceV, loadW);
}

const warmer = (temperatureC: number): number => 1 + PER_KELVIN * (temperatureC - 20);

function dropOver(loopOhm: number, sourceV: number, loadW: number): Drop | null {
  // V at the load satisfies V² − source·V + load·loop = 0; the larger root is where it settles.
  const under = sourceV ** 2 - 4 * loadW * loopOhm;
  if (under < 0) return null;
  const voltsAtLoad = (sourceV + Math.sqrt(under)) / 2;
  const amps = loadW / voltsAtLoad;
  return { voltsAtLoad, amps, lossW: amps ** 2 * loopOhm };
}
