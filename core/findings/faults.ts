import { tiltBeyondBracketDeg } from "../aiming";
import { judge } from "../install";
import { talksUnder } from "../interference";
import {
  carriesDemand,
  holds,
  isServed,
  shortfallText,
  wantedMarginDb,
  type HeardRadio,
  type LinkAnswer,
  type Tape,
} from "../link";
import { linkEnds, type Link, type LinkEnd, type Measurement, type World } from "../plan";
import { returnFrequencyMHz } from "../radio";
import { FLAG_WORDS } from "../regulation";
import { FINDING_KINDS, type Fault, type FindingKind } from "./finding";
import { overCap } from "./overCap";
import { figure } from "../words";

/** Less noise than this above thermal is no reason of its own, dB. */
const NAMED_NOISE_DB = 3;
/** A rise of the noise by the plan's own transmitters from which it is told, dB. */
const OWN_NOISE_DB = 3;
/** Off-boresight loss, dB, from which an aim counts as missed: the edge of the usual beamwidth, twice. */
const MISAIM_DB = 6;

/** All that is wrong with one answered link, worst kinds first. `measurement` is its newest reading, if any. */
export function faultsOf(world: World, link: Link, answer: LinkAnswer, measurement: Measurement | null): Fault[] {
  const { a, b } = linkEnds(world, link);
  const faults: Fault[] = [];
  const add = (kind: FindingKind, radioId: string | null, what: string, why: string, cause: string | null = null) =>
    faults.push({ kind, radioId, what, why, cause });
  /** What is wrong with a sector itself is wrong once, not once for every customer. */
  const ownCause = ({ radio }: LinkEnd) => (radio.role === "sector" ? radio.id : null);

  for (const end of [a, b]) {
    for (const [owner, band] of [
      ["radio", end.model.bandMHz],
      ["antenna", end.antenna.bandMHz],
    ] as const) {
      const outside = [end.radio.frequencyMHz, returnFrequencyMHz(end.model, end.radio.frequencyMHz)].find(
        (frequencyMHz) => frequencyMHz < band[0] || frequencyMHz > band[1],
      );
      if (outside !== undefined) {
        add(
          "outOfBand",
          end.radio.id,
          `${outside} MHz is outside the ${owner}'s ${band[0]}–${band[1]} MHz`,
          "A radio neither sends nor hears outside its band.",
          ownCause(end),
        );
      }
    }
    if (answer.distanceM > end.model.rangeLimitKm * 1000) {
      add(
        "tooFar",
        end.radio.id,
        `${(answer.distanceM / 1000).toFixed(2)} km is beyond the ${end.model.rangeLimitKm} km that the ${end.model.model}'s timing allows`,
        "Answers arrive after the radio has stopped waiting, however strong they are.",
      );
    }
    if (end.radio.heightM > end.maxHeightM) {
      add(
        "tooHigh",
        end.radio.id,
        `${end.radio.heightM} m is ${(end.radio.heightM - end.maxHeightM).toFixed(1)} m above the structure's ${end.maxHeightM} m`,
        "Nothing is there to mount it on.",
        ownCause(end),
      );
    }
  }

  if (!answer.path) {
    const [what, why] = problemWords(answer);
    add("unanswered", null, what, why);
    return faults;
  }

  const { clearance, aToB, bToA, aPointing, bPointing, diffractionDb, trees, treesAlone, mismatches } = answer.path;
  if (mismatches.length > 0) {
    add("mismatch", null, mismatches.join("; "), "Nothing passes between them, however strong the signal is.");
  }
  const at = `at ${clearance.worstKm.toFixed(2)} km`;
  if (treesAlone && trees.depthM > 0 && isServed(world.plan, { a, b }, answer)) {
    add(
      "trees",
      null,
      `${trees.depthM.toFixed(0)} m of trees in the ray ${at}: ${trees.way === "through" ? `${trees.lossDb.toFixed(1)} dB through them` : `${diffractionDb.toFixed(1)} dB bent over their tops`}`,
      "It holds on paper, but wet leaves, wind and growth take more than a formula knows.",
    );
  } else if (clearance.state === "blocked") {
    add(
      "blocked",
      null,
      shortfallText(clearance, world.plan),
      `The straight line itself is cut: ${(diffractionDb + trees.lossDb).toFixed(1)} dB are lost by it, and what arrives changes with weather and leaves. ${marginWords(world.plan, aToB.marginLeftDb <= bToA.marginLeftDb ? aToB : bToA)}`,
    );
  } else if (clearance.state === "tight") {
    add(
      "tight",
      null,
      shortfallText(clearance, world.plan),
      "Line of sight alone is not enough: energy travels in the whole zone.",
    );
  }
  for (const [tape, end] of [
    [aToB, a],
    [bToA, b],
  ] as const) {
    if (tape.limit.flags.includes("indoorOnly") && end.behind === "none") {
      add(
        "indoorOnly",
        end.radio.id,
        `${a.radio.frequencyMHz} MHz, ${tape.limit.source}: ${FLAG_WORDS.indoorOnly}`,
        "An antenna outdoors has no place in this part of the band.",
        ownCause(end),
      );
    }
    if (!tape.limit.covered) {
      add(
        "uncovered",
        end.radio.id,
        tape.limit.reason,
        "Tejado has no cap to hold the radiated power against here.",
        ownCause(end),
      );
      continue;
    }
    const over = overCap({ eirpDbm: tape.eirpDbm, txPowerDbm: end.radio.txPowerDbm }, tape.limit);
    if (over) {
      add(
        "overEirp",
        end.radio.id,
        `${over.words}: turn down by ${over.byDb.toFixed(1)} dB`,
        `${tape.limit.source}: ${tape.limit.reason}.`,
        ownCause(end),
      );
    }
  }
  for (const tape of [aToB, bToA]) {
    if (tape.overloadDb <= 0) continue;
    const { from, to } = tape.question;
    add(
      "overload",
      from.radio.id,
      `${figure(tape.chainLevelDbm)} dBm on a chain at ${to.placeName}, ${tape.overloadDb.toFixed(1)} dB more than the ${figure(to.model.overloadDbm)} dBm its receiver stands: turn ${from.radio.name} down to ${figure(from.radio.txPowerDbm - tape.overloadDb)} dBm or less`,
      "An overloaded receiver hears nothing right, and a far stronger one is damaged.",
    );
  }
  const weaker = aToB.marginLeftDb <= bToA.marginLeftDb ? aToB : bToA;
  const toward = weaker.question.to.placeName;
  const wanted = wantedMarginDb(world.plan, a.radio.frequencyMHz);
  const isSilent = mismatches.length > 0 || aToB.overloadDb > 0 || bToA.overloadDb > 0;
  // A cut line is the one cause of what it does to the level.
  const isCut = clearance.state === "blocked" && weaker.marginLeftDb + diffractionDb + trees.lossDb >= wanted;
  const isWeak = !isSilent && (weaker.fadeMarginDb < 0 || !weaker.modulation);
  const isThin = !isSilent && !isWeak && weaker.marginLeftDb < wanted;
  // Noise is the cause where the link would be fine without it.
  const { noise } = weaker;
  const isNoise = (isWeak || isThin) && noise.riseDb >= NAMED_NOISE_DB && weaker.marginLeftDb + noise.riseDb >= wanted;
  if (isNoise && noise.source !== "own") {
    add(
      "noise",
      weaker.question.to.radio.id,
      `${figure(weaker.snrDb)} dB of signal to noise on a chain at ${toward}: noise stands ${noise.riseDb.toFixed(1)} dB above thermal (${noise.reason})`,
      `Without it ${figure(weaker.marginLeftDb + noise.riseDb)} dB of margin would be left, of ${wanted} wanted; with it ${figure(weaker.marginLeftDb)}.`,
      weaker.question.to.radio.role === "sector" ? weaker.question.to.radio.id : null,
    );
  } else if (isWeak && !isNoise && !isCut) {
    add(
      "weak",
      null,
      weaker.fadeMarginDb < 0
        ? `${figure(weaker.chainLevelDbm)} dBm on a chain at ${toward}, ${figure(-weaker.fadeMarginDb)} dB under the ${figure(weaker.sensitivityDbm)} that the most robust modulation needs`
        : `no modulation holds at ${toward}`,
      noise.riseDb > 0
        ? `Not even the most robust modulation holds; ${noise.riseDb.toFixed(1)} dB of that is noise.`
        : "Not even the most robust modulation holds.",
    );
  } else if (isThin && !isNoise && !isCut) {
    add(
      "margin",
      null,
      `${figure(weaker.marginLeftDb)} dB left at ${toward}, ${wanted} dB wanted`,
      weaker.rainDb > 0
        ? `Rain takes ${weaker.rainDb.toFixed(1)} dB for ${(100 - world.plan.availabilityPercent).toFixed(3)} % of the year.`
        : "Fading, wind and growing noise will eat the rest.",
    );
  }
  for (const tape of [aToB, bToA]) {
    const ownDb = tape.noise.riseDb - tape.noise.outsideDb;
    const heard = tape.question.heard?.radios[0];
    if (!heard || (ownDb < OWN_NOISE_DB && !(isNoise && noise.source === "own" && tape === weaker))) continue;
    const { to } = tape.question;
    const channel = channelWords(heard, tape);
    add(
      "ownNoise",
      to.radio.id,
      `${heard.name} at ${heard.placeName}, on ${channel} (${heard.frequencyMHz} MHz), raises the noise at ${to.placeName} by ${ownDb.toFixed(1)} dB: ${figure(heard.dbm)} dBm on a chain`,
      `Taken as sending while ${to.radio.name} listens; timing in common would help. Signal to noise is ${figure(tape.snrDb)} dB, without it ${figure(tape.snrDb + ownDb)} dB.`,
      [talksUnder(world, to.radio.id), talksUnder(world, heard.radioId)].sort().join(" "),
    );
  }
  if (holds(world.plan, a.radio.frequencyMHz, answer) && b.demand && !carriesDemand(b.demand, answer)) {
    const short = [
      [aToB.rateMbps, b.demand.downMbps, `to ${b.placeName}`],
      [bToA.rateMbps, b.demand.upMbps, `from ${b.placeName}`],
    ] as const;
    add(
      "demand",
      null,
      short
        .filter(([rate, asked]) => rate < asked)
        .map(([rate, asked, way]) => `${rateText(rate)} of ${rateText(asked)} Mbit/s ${way}`)
        .join(", "),
      "The link holds, but even alone on the sector it does not carry what was asked for.",
    );
  }
  if (a.radio.polarization !== b.radio.polarization) {
    add(
      "polarization",
      b.radio.id,
      `${a.radio.polarization} facing ${b.radio.polarization}: ${polarizationWords(aToB, bToA)}`,
      "Both ends must stand the same way, or chains fall away.",
    );
  }
  for (const [end, pointing] of [
    [a, aPointing],
    [b, bPointing],
  ] as const) {
    const beyond = tiltBeyondBracketDeg(end, pointing.mechanicalTiltDownDeg);
    if (beyond > 0.05) {
      const way = pointing.mechanicalTiltDownDeg > 0 ? "down" : "up";
      add(
        "bracket",
        end.radio.id,
        `${Math.abs(pointing.mechanicalTiltDownDeg).toFixed(1)}° ${way} needed, ${beyond.toFixed(1)}° more than the bracket reaches`,
        "On the roof the bolt meets the end of its slot.",
      );
    }
    const offDb = (end === a ? aToB : bToA).fromOffDb;
    // Close in, a customer far below the beam still has level to spare: only a thin margin makes it a fault.
    if (offDb >= MISAIM_DB && weaker.marginLeftDb < wanted && !isNoise) {
      add(
        "misaimed",
        end.radio.id,
        `${offDb.toFixed(1)} dB lost ${Math.abs(pointing.azimuthOffDeg).toFixed(0)}° beside and ${Math.abs(pointing.elevationOffDeg).toFixed(0)}° above or below the boresight of ${end.radio.name}`,
        "The far end stands outside the beam.",
      );
    }
  }
  if (measurement) {
    const verdict = judge(world.plan, a, b, measurement);
    if (verdict.state !== "proven") {
      const lead = verdict.causes[0];
      add(verdict.state, null, verdict.summary, lead ? `${lead.title}: ${lead.reason}` : verdict.floor.text);
    }
  }
  return faults.sort((x, y) => FINDING_KINDS.indexOf(x.kind) - FINDING_KINDS.indexOf(y.kind));
}

/** Why a path has no answer, and what that means. */
function problemWords({ problem, distanceM }: LinkAnswer): [what: string, why: string] {
  switch (problem?.kind) {
    case "hole":
      return [
        `the terrain has a hole of ${problem.count} samples from ${problem.firstKm.toFixed(2)} km on`,
        "Unknown ground is not sea level: fill the hole before trusting the path.",
      ];
    case "notFinite":
      return [
        `its ${problem.figure} comes out as no number`,
        "A figure that is none is not shown. Check heights, kit and ground at both ends.",
      ];
    default:
      return [
        `the ends are ${distanceM.toFixed(1)} m apart`,
        "Both ends stand at one place; there is no path between them.",
      ];
  }
}

/** "−44.1 dB of margin left at Casa X, 10 wanted." */
function marginWords(plan: World["plan"], { marginLeftDb, question: { to, path } }: Tape): string {
  return `${figure(marginLeftDb)} dB of margin left at ${to.placeName}, ${wantedMarginDb(plan, path.frequencyMHz)} wanted.`;
}

/** How a heard transmitter's channel lies to the receiver's. */
function channelWords(heard: HeardRadio, { question: { path } }: Tape): string {
  const offsetMHz = Math.abs(heard.frequencyMHz - path.frequencyMHz);
  if (offsetMHz === 0) return "the same channel";
  return offsetMHz < (heard.widthMHz + path.widthMHz) / 2 ? "an overlapping channel" : "a channel close by";
}

/** What unequal polarization takes, by direction where it differs. */
function polarizationWords(aToB: Tape, bToA: Tape): string {
  const lost = ({ crossedDb, splitDb, question: { to } }: Tape) =>
    crossedDb > 0
      ? `${crossedDb.toFixed(0)} dB of the total lost toward ${to.placeName}`
      : splitDb > 0
        ? `all of it arrives at ${to.placeName}, ${splitDb.toFixed(0)} dB less on each chain`
        : `all of it arrives at ${to.placeName}, on one chain`;
  return `${lost(aToB)}; ${lost(bToA)}`;
}

const rateText = (mbps: number) => (mbps < 10 ? mbps.toFixed(1) : mbps.toFixed(0));
