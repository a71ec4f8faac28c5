import { patternLossDb, peakGainDbi, type Polarization } from "../antenna";
import type { Pointing } from "../aiming";
import type { LinkEnd, Plan } from "../plan";
import {
  buildingEntryLossDb,
  foliageLossDb,
  freeSpaceLossDb,
  gasAttenuation,
  rainAttenuationDb,
  thermalNoiseDbm,
  type LinearPolarization,
} from "../propagation";
import { netRateMbps, sensitivityDbm, type Modulation } from "../radio";
import { eirpLimit, ruleSetById, type EirpLimit } from "../regulation";
import { noiseRise } from "./noise";

/** One printed line: a signed step, or a total that stands on its own. */
export interface TapeLine {
  key: string;
  label: string;
  /** Signed change in dB, or null on a line that only states a total. */
  stepDb: number | null;
  /** The running total after the line, with its unit. */
  total: number | null;
  unit: "dBm" | "dB" | "Mbit/s";
  formula: string;
  inputs: [name: string, value: string][];
  source: string;
}

export interface Tape {
  direction: "aToB" | "bToA";
  lines: TapeLine[];
  eirpDbm: number;
  limit: EirpLimit;
  /** Decibels by which the transmitter must be turned down; 0 within the caps. */
  overCapDb: number;
  /** Power the radio actually sends at the chosen modulation. */
  sentDbm: number;
  levelDbm: number;
  noiseDbm: number;
  snrDb: number;
  modulation: Modulation | null;
  rateMbps: number;
  sensitivityDbm: number;
  fadeMarginDb: number;
  rainDb: number;
  /** What is left of the fade margin in rain at the plan's availability. */
  marginLeftDb: number;
}

/** What both directions of a path share. */
export interface PathLosses {
  distanceKm: number;
  diffractionDb: number;
  foliageDepthM: number;
  frequencyMHz: number;
  widthMHz: number;
}

/** The linear polarization that formulas for rain and ground take for a radio's; V, the milder in rain, only where all is V. */
export function linearOf(polarization: Polarization): LinearPolarization {
  return polarization === "V" ? "V" : "H";
}

/**
 * Loss in dB where the two ends differ in polarization. Crossed linear ends keep what the weaker isolation leaks;
 * a dual end facing a single one, or H/V facing ±45°, lands half its power on each chain.
 */
export function polarizationLossDb(a: LinkEnd, b: LinkEnd): number {
  const pa = a.radio.polarization;
  const pb = b.radio.polarization;
  if (pa === pb) return 0;
  const linear = (p: Polarization) => p === "H" || p === "V";
  return linear(pa) && linear(pb) ? Math.min(a.antenna.crossPolarDb, b.antenna.crossPolarDb) : 3;
}

/** Chains that both ends can use: one when either stands on a single polarization. */
export function commonChains(a: LinkEnd, b: LinkEnd): number {
  const single = (end: LinkEnd) =>
    end.radio.polarization === "H" || end.radio.polarization === "V" ? 1 : end.model.chains;
  return Math.min(single(a), single(b));
}

/** Percentage of a year in which rain may break the link; P.530's method ends at 0.001 and 1 %. */
function rainPercent(plan: Plan): number {
  return Math.min(1, Math.max(0.001, 100 - plan.availabilityPercent));
}

const db = (value: number) => `${value.toFixed(1)} dB`;
const dbm = (value: number) => `${value.toFixed(1)} dBm`;

/**
 * The link budget of one direction, line by line. `kind` chooses between point-to-point and point-to-multipoint caps.
 * The level is that of fair weather; rain stands below it and eats into the margin. Sources stand on each line.
 */
export function tapeOf({
  direction,
  plan,
  kind,
  from,
  to,
  fromPointing,
  toPointing,
  path,
}: {
  direction: Tape["direction"];
  plan: Plan;
  kind: "access" | "bridge";
  from: LinkEnd;
  to: LinkEnd;
  fromPointing: Pointing;
  toPointing: Pointing;
  path: PathLosses;
}): Tape {
  const lines: TapeLine[] = [];
  let total = 0;
  const line = (
    key: string,
    label: string,
    stepDb: number,
    formula: string,
    inputs: TapeLine["inputs"],
    source: string,
  ) => {
    total += stepDb;
    lines.push({ key, label, stepDb, total, unit: "dBm", formula, inputs, source });
  };
  const state = (
    key: string,
    label: string,
    value: number,
    unit: TapeLine["unit"],
    formula: string,
    inputs: TapeLine["inputs"],
    source: string,
  ) => lines.push({ key, label, stepDb: null, total: value, unit, formula, inputs, source });

  const { frequencyMHz, widthMHz, distanceKm } = path;
  const frequencyGHz = frequencyMHz / 1000;
  const fromGain = peakGainDbi(from.antenna, frequencyMHz);
  const toGain = peakGainDbi(to.antenna, frequencyMHz);
  const frequencyInput: [string, string] = ["frequency", `${frequencyMHz} MHz`];
  const distanceInput: [string, string] = ["distance", `${distanceKm.toFixed(3)} km`];

  line(
    "power",
    "Transmit power",
    from.radio.txPowerDbm,
    "as set on the radio",
    [
      ["radio", `${from.model.maker} ${from.model.model}`],
      ["range", `${from.model.powerMinDbm} to ${from.model.powerMaxDbm} dBm`],
    ],
    "plan",
  );
  if (from.radio.cableLossDb > 0)
    line("cable", "Cable and connectors", -from.radio.cableLossDb, "as set on the radio", [], "plan");
  line(
    "gain",
    "Antenna gain",
    fromGain,
    "gain of the antenna's sheet at the frequency",
    [["antenna", `${from.antenna.maker} ${from.antenna.model}`], frequencyInput],
    "antenna sheet",
  );
  const eirpDbm = total;
  const limit = eirpLimit({
    ruleSet: ruleSetById(plan.ruleSetId),
    frequencyMHz,
    widthMHz,
    use: kind === "bridge" ? "ptp" : "ptmp",
    antennaGainDbi: fromGain,
    elevationDeg: -fromPointing.mechanicalTiltDownDeg,
  });
  const overCapDb = Math.max(
    0,
    limit.eirpCapDbm === null ? 0 : eirpDbm - limit.eirpCapDbm,
    limit.conductedCapDbm === null ? 0 : from.radio.txPowerDbm - limit.conductedCapDbm,
  );
  const capText = limit.eirpCapDbm === null ? "none in the rule set" : dbm(limit.eirpCapDbm);
  state(
    "eirp",
    "EIRP",
    eirpDbm,
    "dBm",
    "power − cable + peak gain, held against the cap",
    [
      ["cap", capText],
      ["because", limit.reason],
      ...(limit.conductedCapDbm === null ? [] : [["conducted cap", dbm(limit.conductedCapDbm)] as [string, string]]),
      ...limit.flags.map((flag) => ["note", flag] as [string, string]),
    ],
    `${limit.source}; check with your regulator`,
  );

  const fromLoss = patternLossDb(
    from.antenna,
    from.radio.polarization,
    fromPointing.azimuthOffDeg,
    fromPointing.elevationOffDeg,
  );
  if (fromLoss >= 0.05)
    line(
      "offA",
      `Off ${from.placeName}'s boresight`,
      -fromLoss,
      "sum of the azimuth and elevation cuts, at most front-to-back",
      [
        ["azimuth off", `${fromPointing.azimuthOffDeg.toFixed(1)}°`],
        ["elevation off", `${fromPointing.elevationOffDeg.toFixed(1)}°`],
      ],
      "antenna sheet",
    );

  line(
    "freeSpace",
    "Free space",
    -freeSpaceLossDb({ distanceKm, frequencyGHz }),
    "20 log₁₀(4πd/λ)",
    [distanceInput, frequencyInput],
    "ITU-R P.525-4 eq. 4",
  );
  const gas = gasAttenuation({ frequencyGHz });
  const gasDb = (gas.oxygenDbPerKm + gas.vapourDbPerKm) * distanceKm;
  line(
    "gas",
    "Oxygen and vapour",
    -gasDb,
    "(γₒ + γ𝓌)·d at 15 °C, 1013 hPa, 7.5 g/m³",
    [
      ["oxygen", `${gas.oxygenDbPerKm.toFixed(4)} dB/km`],
      ["vapour", `${gas.vapourDbPerKm.toFixed(4)} dB/km`],
      distanceInput,
    ],
    "ITU-R P.676-10 annex 2",
  );
  line(
    "diffraction",
    "Diffraction",
    -path.diffractionDb,
    "Bullington over the profile, plus what a smooth earth adds",
    [["k", plan.kFactor.toFixed(2)], frequencyInput],
    "ITU-R P.526-15 §4.5.2",
  );
  if (path.foliageDepthM > 0)
    line(
      "foliage",
      "Through trees",
      -foliageLossDb({ frequencyGHz, depthM: path.foliageDepthM }),
      "1.33 f^0.284 d^0.588 (0.45 f^0.284 d under 14 m), in leaf",
      [["depth", `${path.foliageDepthM} m`], frequencyInput],
      "Weissberger 1982",
    );
  for (const end of [from, to]) {
    if (end.behind === "none") continue;
    const construction = end.behind;
    line(
      `wall-${end.radio.id}`,
      `Into ${end.placeName}`,
      -buildingEntryLossDb({ frequencyGHz: Math.min(100, frequencyGHz), construction }),
      "median building entry loss",
      [["construction", construction.replace("_", " ")], frequencyInput],
      "ITU-R P.2109-1",
    );
  }
  const crossed = polarizationLossDb(from, to);
  if (crossed > 0)
    line(
      "polarization",
      "Unequal polarization",
      -crossed,
      "isolation of the weaker antenna when crossed, 3 dB when half fits",
      [["ends", `${from.radio.polarization} and ${to.radio.polarization}`]],
      "antenna sheets",
    );
  line(
    "farGain",
    "Far antenna gain",
    toGain,
    "gain of the antenna's sheet at the frequency",
    [["antenna", `${to.antenna.maker} ${to.antenna.model}`], frequencyInput],
    "antenna sheet",
  );
  const toLoss = patternLossDb(to.antenna, to.radio.polarization, toPointing.azimuthOffDeg, toPointing.elevationOffDeg);
  if (toLoss >= 0.05)
    line(
      "offB",
      `Off ${to.placeName}'s boresight`,
      -toLoss,
      "sum of the azimuth and elevation cuts, at most front-to-back",
      [
        ["azimuth off", `${toPointing.azimuthOffDeg.toFixed(1)}°`],
        ["elevation off", `${toPointing.elevationOffDeg.toFixed(1)}°`],
      ],
      "antenna sheet",
    );
  if (to.radio.cableLossDb > 0)
    line("farCable", "Far cable and connectors", -to.radio.cableLossDb, "as set on the radio", [], "plan");

  const fullLevelDbm = total;
  const thermal = thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: to.model.noiseFigureDb });
  const heard = noiseRise(to, thermal, toPointing.azimuthDeg, path);
  const noiseDbm = thermal + heard.riseDb;
  // Fast modulations make the transmitter back off: take the fastest that still holds after its own back-off,
  // never counting a power already set below that.
  let modulation: Modulation | null = null;
  let backoffDb = 0;
  for (const candidate of to.model.modulations) {
    const backoff = Math.max(0, from.radio.txPowerDbm - (from.model.powerMaxDbm - candidate.backoffDb));
    if (fullLevelDbm - backoff - noiseDbm < candidate.snrDb) continue;
    modulation = candidate;
    backoffDb = backoff;
  }
  if (backoffDb > 0)
    line(
      "backoff",
      `Back-off for ${modulation!.name}`,
      -backoffDb,
      "power − (greatest power − the modulation's back-off)",
      [["greatest power", dbm(from.model.powerMaxDbm)]],
      "radio sheet",
    );
  const levelDbm = total;
  state("level", "Received level", levelDbm, "dBm", "sum of the lines above, fair weather", [], "tape");
  state(
    "noise",
    "Noise floor",
    noiseDbm,
    "dBm",
    "−173.975 dBm/Hz + 10 log₁₀(B) + noise figure + interference",
    [
      ["width", `${widthMHz} MHz`],
      ["noise figure", db(to.model.noiseFigureDb)],
      ["interference above thermal", db(heard.riseDb)],
      ["because", heard.reason],
    ],
    "k·T·B at 290 K",
  );
  const snrDb = levelDbm - noiseDbm;
  state("snr", "Signal to noise", snrDb, "dB", "level − noise floor", [], "tape");
  const chains = commonChains(from, to);
  const rate = netRateMbps({
    radio: to.model,
    modulation,
    widthMHz,
    chains,
    direction: direction === "aToB" ? "down" : "up",
  });
  state(
    "rate",
    modulation ? `Throughput, ${modulation.name}` : "Throughput, no modulation holds",
    rate,
    "Mbit/s",
    "bit/s/Hz × width × chains × efficiency × share of the frame",
    [
      ["chains", `${chains}`],
      ["efficiency", `${to.model.efficiency}`],
    ],
    "radio sheet",
  );
  const sensitivity = sensitivityDbm(to.model, widthMHz) + heard.riseDb;
  const fadeMarginDb = levelDbm - sensitivity + backoffDb;
  state(
    "margin",
    "Fade margin",
    fadeMarginDb,
    "dB",
    `level at full power − sensitivity at ${to.model.modulations[0]!.name}`,
    [
      ["sensitivity", dbm(sensitivity)],
      ["wanted", db(frequencyGHz > 10 ? plan.rainMarginDb : plan.marginTargetDb)],
    ],
    "radio sheet",
  );
  let rainDb = 0;
  if (frequencyGHz > 10) {
    rainDb = rainAttenuationDb({
      frequencyGHz: Math.min(100, frequencyGHz),
      polarization: linearOf(from.radio.polarization),
      distanceKm,
      rainRate001MmPerH: plan.rainRate001MmPerH,
      percentOfTime: rainPercent(plan),
    });
    lines.push({
      key: "rain",
      label: `Rain at ${plan.availabilityPercent} %`,
      stepDb: -rainDb,
      total: fadeMarginDb - rainDb,
      unit: "dB",
      formula: "γ·d·r, scaled from 0.01 % of the year",
      inputs: [["rain rate 0.01 %", `${plan.rainRate001MmPerH} mm/h`], distanceInput, frequencyInput],
      source: "ITU-R P.530-17 §2.4.1, P.838-3",
    });
  }
  return {
    direction,
    lines,
    eirpDbm,
    limit,
    overCapDb,
    sentDbm: from.radio.txPowerDbm - backoffDb,
    levelDbm,
    noiseDbm,
    snrDb,
    modulation,
    rateMbps: rate,
    sensitivityDbm: sensitivity,
    fadeMarginDb,
    rainDb,
    marginLeftDb: fadeMarginDb - rainDb,
  };
}
