import { termName } from "../learn";
import type { LinkEnd } from "../plan";
import { capWords, limitReason, FLAG_WORDS, LICENCE_WORDS } from "../regulation";
import { figure, signedFigure } from "../words";
import { RAIN_COUNTS_FROM_GHZ, type Tape } from "./budget";
import { receiveBeamOf } from "./receiveBeam";
import { tapeWriter, type TapeLine } from "./tapeWriter";

const db = (value: number) => `${figure(value)} dB`;
const dbm = (value: number) => `${figure(value)} dBm`;

/** A single polarization arrives on one chain of two. */
const isOneOfTwo = ({ chains, question: { to }, splitDb }: Tape) =>
  chains === 1 && splitDb === 0 && to.radio.polarization === "HV" && to.model.chains > 1;

/** Which chain a level is meant for. */
export function chainWords(tape: Tape): string {
  const { from, to } = tape.question;
  if (isOneOfTwo(tape)) return `the ${from.radio.polarization} chain`;
  return tape.splitDb > 0 || (tape.chains > 1 && to.model.chains > 1) ? "each chain" : "its one chain";
}

/** The modulation behind a throughput, or the reason why nothing passes. */
function rateWords({ modulation, overloadDb, airRateMbps, question }: Tape): string {
  if (question.isMismatched) return "the ends do not match";
  if (overloadDb > 0) return "the receiver is overloaded";
  if (!modulation) return "no modulation holds";
  return airRateMbps === null ? modulation.name : `${modulation.name}, as much as the socket carries`;
}

type Writer = ReturnType<typeof tapeWriter>;
type Input = [name: string, value: string];
const frequencyInput = ({ question: { path } }: Tape): Input => ["frequency", `${path.frequencyMHz} MHz`];
const distanceInput = ({ question: { path } }: Tape): Input => ["distance", `${path.distanceKm.toFixed(3)} km`];

/** A link budget printed line by line; each names its formula, its inputs and its source. */
export function tapeLines(tape: Tape): TapeLine[] {
  const writer = tapeWriter();
  const { from, to, fromPointing } = tape.question;
  writeSending(tape, writer);
  if (tape.fromOffDb > 0) writeOffBoresight("offA", tape, from, tape.fromOffDb, fromPointing, writer);
  writePath(tape, writer);
  if (tape.fromWallDb > 0) writeWall(tape, from, tape.fromWallDb, writer);
  if (tape.toWallDb > 0) writeWall(tape, to, tape.toWallDb, writer);
  writeCorrections(tape, writer);
  writeReceiving(tape, writer);
  writeLevels(tape, writer);
  writeNoise(tape, writer);
  writeResults(tape, writer);
  return writer.lines;
}

/** Power, cable and gain at the end that sends, and the EIRP that they come to. */
function writeSending(tape: Tape, { line, state }: Writer): void {
  const { from, turnedDownDb } = tape.question;
  const { limit } = tape;
  line(
    "power",
    "Transmit power",
    from.radio.txPowerDbm,
    turnedDownDb > 0
      ? "the power set on the radio, less what the access point turns it down by to have all customers arrive alike"
      : "as set on the radio",
    [
      ...(turnedDownDb > 0
        ? ([
            ["set", dbm(from.radio.txPowerDbm + turnedDownDb)],
            ["turned down by", db(turnedDownDb)],
          ] as Input[])
        : []),
      ["radio", `${from.model.maker} ${from.model.model}`],
      ["range", `${figure(from.model.powerMinDbm)} to ${dbm(from.model.powerMaxDbm)}`],
    ],
    "plan",
  );
  if (from.radio.cableLossDb > 0)
    line("cable", "Cable and connectors", -from.radio.cableLossDb, "as set on the radio", [], "plan");
  line(
    "gain",
    "Antenna gain",
    tape.fromGainDbi,
    "gain of the antenna's sheet at the frequency",
    [["antenna", `${from.antenna.maker} ${from.antenna.model}`], frequencyInput(tape)],
    "antenna sheet",
  );
  state(
    "eirp",
    "EIRP",
    tape.eirpDbm,
    "dBm",
    "power − cable + peak gain, held against the cap",
    [
      ["cap", capWords(limit)],
      ["because", limitReason(limit)],
      ...(limit.conductedCapDbm === null ? [] : [["conducted cap", dbm(limit.conductedCapDbm)] as Input]),
      ...(limit.covered ? [["licence", LICENCE_WORDS[limit.licence]] as Input] : []),
      ...limit.flags.map((flag) => ["asks for", FLAG_WORDS[flag]] as Input),
    ],
    `${limit.source}; check with your regulator`,
  );
}

function writeOffBoresight(
  key: string,
  { question: { plan } }: Tape,
  end: LinkEnd,
  lossDb: number,
  pointing: Tape["question"]["fromPointing"],
  { line }: Writer,
): void {
  line(
    key,
    `Off ${end.placeName}'s boresight`,
    -lossDb,
    "sum of the azimuth and elevation cuts, at most front-to-back",
    [
      ["azimuth off", `${figure(pointing.azimuthOffDeg)}°`],
      ["elevation off", `${figure(pointing.elevationOffDeg)}°`],
      ...(end.radio.azimuthDeg === null && plan.pointingErrorDeg > 0
        ? [["pointing error allowed for", `${plan.pointingErrorDeg}°`] as Input]
        : []),
    ],
    "antenna sheet",
  );
}

function writeWall(tape: Tape, end: LinkEnd, lossDb: number, { line }: Writer): void {
  line(
    `wall-${end.radio.id}`,
    `Into ${end.placeName}`,
    -lossDb,
    "median building entry loss",
    [["construction", end.behind.replace("_", " ")], frequencyInput(tape)],
    "ITU-R P.2109-1",
  );
}

/** What the air, the ground and trees take. */
function writePath(tape: Tape, { line }: Writer): void {
  const { plan, path } = tape.question;
  const { trees } = path;
  line(
    "freeSpace",
    "Free space",
    -path.freeSpaceDb,
    "20 log₁₀(4πd/λ)",
    [distanceInput(tape), frequencyInput(tape)],
    "ITU-R P.525-4 eq. 4",
  );
  line(
    "gas",
    "Oxygen and vapour",
    -tape.gasDb,
    "(γₒ + γ𝓌)·d at 15 °C, 1013 hPa, 7.5 g/m³",
    [
      ["oxygen", `${path.oxygenDbPerKm.toFixed(4)} dB/km`],
      ["vapour", `${path.vapourDbPerKm.toFixed(4)} dB/km`],
      distanceInput(tape),
    ],
    "ITU-R P.676-10 annex 2",
  );
  line(
    "diffraction",
    "Diffraction",
    -path.diffractionDb,
    "Bullington over the profile, plus what a smooth earth adds",
    [
      ["k", plan.kFactor.toFixed(2)],
      frequencyInput(tape),
      ...(trees.depthM > 0 ? [["trees", trees.way === "through" ? "passed through" : "passed over"] as Input] : []),
    ],
    "ITU-R P.526-15 §4.5.2",
  );
  if (trees.lossDb > 0)
    line(
      "foliage",
      "Through trees",
      -trees.lossDb,
      "1.33 f^0.284 d^0.588 (0.45 f^0.284 d under 14 m) in leaf; bare wood a share of it",
      [
        ["depth", `${trees.depthM.toFixed(0)} m, ${trees.isMeasured ? "measured in the ray" : "as set on the link"}`],
        [
          "season",
          plan.season === "bare" ? `bare, ${Math.round(trees.leafyShare * 100)} % sheds its leaves` : "in leaf",
        ],
        frequencyInput(tape),
      ],
      "Weissberger 1982",
    );
}

/** What unequal ends cost, and what measurements taught. */
function writeCorrections(tape: Tape, { line }: Writer): void {
  const { from, to, path } = tape.question;
  if (tape.crossedDb > 0)
    line(
      "polarization",
      "Unequal polarization",
      -tape.crossedDb,
      "isolation of the weaker antenna when crossed; 3 dB where a receiver on one polarization hears half of two",
      [["ends", `${from.radio.polarization} and ${to.radio.polarization}`]],
      "antenna sheets",
    );
  if (path.learned) {
    const { db, sdDb, readings, parts } = path.learned;
    line(
      "learned",
      "Learned here",
      db,
      "what readings of such paths stood over their predictions; none of it is in the other lines",
      [
        ["give or take", `${sdDb.toFixed(1)} dB`],
        ["readings", String(readings)],
        ...parts.map(([key, part]): Input => [termName(key), `${signedFigure(part)} dB`]),
      ],
      "Bayesian regression on this plan's own readings",
    );
  }
}

/** Gain, receive beam and cable at the end that receives. */
function writeReceiving(tape: Tape, writer: Writer): void {
  const { line } = writer;
  const { from, to, toPointing } = tape.question;
  const { modulation, backoffDb } = tape;
  line(
    "farGain",
    "Far antenna gain",
    tape.toGainDbi,
    "gain of the antenna's sheet at the frequency",
    [["antenna", `${to.antenna.maker} ${to.antenna.model}`], frequencyInput(tape)],
    "antenna sheet",
  );
  if (tape.toOffDb > 0) writeOffBoresight("offB", tape, to, tape.toOffDb, toPointing, writer);
  const beam = receiveBeamOf(to);
  if (beam)
    line(
      "beam",
      `${to.placeName}'s receive beam`,
      tape.beamDb,
      "gain of the beam over the ordinary pattern, less 12·(off ÷ width)² where it cannot turn so far",
      [
        ["width at −3 dB", `${figure(beam.widthDeg)}°`],
        ["turns to either side", `${figure(beam.steersDeg)}°`],
        ["outside it", `${db(beam.sideLobesDb)} down`],
      ],
      "antenna sheet; 3GPP TR 36.814",
    );
  if (to.radio.cableLossDb > 0)
    line("farCable", "Far cable and connectors", -to.radio.cableLossDb, "as set on the radio", [], "plan");
  if (backoffDb > 0)
    line(
      "backoff",
      `Back-off for ${modulation!.name}`,
      -backoffDb,
      "power − (greatest power − the modulation's back-off)",
      [["greatest power", dbm(from.model.powerMaxDbm)]],
      "radio sheet",
    );
}

/** What arrives, on all chains and on one. */
function writeLevels(tape: Tape, { line, state }: Writer): void {
  const { from, to } = tape.question;
  const chain = chainWords(tape);
  if (tape.splitDb > 0) {
    state(
      "total",
      "Received level, all chains",
      tape.totalLevelDbm,
      "dBm",
      "sum of the lines above, fair weather",
      [],
      "tape",
    );
    line(
      "split",
      "Shared by the chains",
      -tape.splitDb,
      "10 log₁₀ of the chains that share the power",
      [["ends", `${from.radio.polarization} and ${to.radio.polarization}`]],
      "geometry",
    );
  }
  state(
    "level",
    `Received level, ${chain}`,
    tape.chainLevelDbm,
    "dBm",
    "what one chain's receiver gets, fair weather: noise, SNR and sensitivity are one chain's too",
    [
      ["all chains together", dbm(tape.totalLevelDbm)],
      ...(isOneOfTwo(tape)
        ? [
            ["the other chain", `${dbm(tape.chainLevelDbm - to.antenna.crossPolarDb)}, by the antenna's isolation`] as [
              string,
              string,
            ],
          ]
        : []),
      [
        "overload",
        `${dbm(to.model.overloadDbm)}${tape.overloadDb > 0 ? `: ${db(tape.overloadDb)} too strong at full power` : ""}`,
      ],
    ],
    "tape",
  );
}

function writeNoise(tape: Tape, { state }: Writer): void {
  const { to, path } = tape.question;
  const { learnedNoise } = tape.question;
  if (learnedNoise)
    state(
      "learnedNoise",
      `Noise learned around ${to.placeName}`,
      tape.noise.learnedDb,
      "dB",
      "what readings of noise stood over their predictions; never under thermal noise",
      [
        ["give or take", db(learnedNoise.sdDb)],
        ["readings", String(learnedNoise.readings)],
        ...learnedNoise.parts.map(([key, part]): Input => [termName(key), `${signedFigure(part)} dB`]),
      ],
      "this plan's proofs and watch",
    );
  state(
    "noise",
    "Noise floor, one chain",
    tape.noiseDbm,
    "dBm",
    `−173.975 dBm/Hz + 10 log₁₀(B) + noise figure + interference${learnedNoise ? ", what was learned included" : ""}`,
    [
      ["width", `${path.widthMHz} MHz`],
      ["noise figure", db(to.model.noiseFigureDb)],
      ["interference above thermal", db(tape.noise.riseDb)],
      ["because", tape.noise.reason],
    ],
    "k·T·B at 290 K",
  );
}

/** Signal to noise, throughput and margins. */
function writeResults(tape: Tape, { lines, state }: Writer): void {
  const { plan, from, to, path } = tape.question;
  const isRainCounted = path.frequencyMHz / 1000 > RAIN_COUNTS_FROM_GHZ;
  const chain = chainWords(tape);
  state("snr", `Signal to noise, ${chain}`, tape.snrDb, "dB", "level − noise floor, both of one chain", [], "tape");
  state(
    "rate",
    `Throughput, ${rateWords(tape)}`,
    tape.rateMbps,
    "Mbit/s",
    "bit/s/Hz × width × chains × efficiency × share of the frame, as both radios can",
    [
      ["chains", `${tape.chains}`],
      ["efficiency", `${Math.min(from.model.efficiency, to.model.efficiency)}`],
      ...(tape.airRateMbps === null
        ? []
        : [["over the air", `${tape.airRateMbps.toFixed(0)} Mbit/s: the data socket carries less`] as Input]),
    ],
    "radio sheet",
  );
  state(
    "margin",
    "Fade margin",
    tape.fadeMarginDb,
    "dB",
    "level of a chain at full power − sensitivity at the most robust modulation",
    [
      ["sensitivity", dbm(tape.sensitivityDbm)],
      ["wanted", db(isRainCounted ? plan.rainMarginDb : plan.marginTargetDb)],
    ],
    "radio sheet",
  );
  if (isRainCounted) {
    lines.push({
      key: "rain",
      label: `Rain at ${plan.availabilityPercent} %`,
      stepDb: -tape.rainDb,
      total: tape.marginLeftDb,
      unit: "dB",
      formula: "γ·d·r, scaled from 0.01 % of the year",
      inputs: [
        [
          "rain rate 0.01 %",
          `${path.rainRate001MmPerH} mm/h${plan.rainRate001MmPerH === null ? ", by the latitude" : ", the plan's"}`,
        ],
        distanceInput(tape),
        frequencyInput(tape),
      ],
      source: "ITU-R P.530-17 §2.4.1, P.838-3",
    });
  }
}
