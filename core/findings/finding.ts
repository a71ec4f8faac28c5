import { tiltBeyondBracketDeg } from "../aiming";
import { isServed, wantedMarginDb, wantedText, type LinkAnswer } from "../link";
import { linkEnds, type Edit, type Link, type LinkEnd, type Measurement, type World } from "../plan";
import { judge } from "../install";
import { FLAG_WORDS } from "../regulation";
import { peopleBehind } from "./outcome";

export const FINDING_KINDS = [
  "unanswered",
  "outOfBand",
  "tooHigh",
  "tooFar",
  "blocked",
  "weak",
  "overEirp",
  "uncovered",
  "indoorOnly",
  "failed",
  "doubtful",
  "tight",
  "trees",
  "margin",
  "polarization",
  "bracket",
  "misaimed",
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

/** A computed way out: edits that were tried and found to resolve the finding, or a visit with a reading to take. */
export interface Remedy {
  label: string;
  effect: string;
  edits: Edit[];
  /** Set where the way out is a new reading rather than a change of plan. */
  visit: boolean;
}

export interface Finding {
  id: string;
  kind: FindingKind;
  linkId: string;
  /** The radio at fault where it is one end's. */
  radioId: string | null;
  where: string;
  /** What is wrong and by how much. */
  what: string;
  why: string;
  people: number;
  /** Null while nobody has looked for them: in a large plan only the findings that hurt most are worked out at once. */
  remedies: Remedy[] | null;
}

/** A fault before anyone has looked for remedies. */
export type Fault = Omit<Finding, "remedies" | "people" | "where" | "linkId" | "id">;

/** How a state is said to a reader, by kind. */
export const FINDING_TITLES: Record<FindingKind, string> = {
  unanswered: "No answer",
  outOfBand: "Out of band",
  tooHigh: "Above the structure",
  tooFar: "Beyond its timing",
  blocked: "Blocked",
  weak: "No modulation holds",
  overEirp: "Over the cap",
  uncovered: "No rule",
  indoorOnly: "Indoor band",
  failed: "Failed its proof",
  doubtful: "Doubtful proof",
  tight: "Zone intruded",
  trees: "Trees in the ray",
  margin: "Thin margin",
  polarization: "Unequal polarization",
  bracket: "Beyond the bracket",
  misaimed: "Outside the beam",
};

/** Off-boresight loss, dB, from which an aim counts as missed: the edge of the usual beamwidth, twice. */
const MISAIM_DB = 6;

/** All that is wrong with one answered link, worst kinds first. `measurement` is its newest reading, if any. */
export function faultsOf(world: World, link: Link, answer: LinkAnswer, measurement: Measurement | null): Fault[] {
  const { a, b } = linkEnds(world, link);
  const faults: Fault[] = [];
  const add = (kind: FindingKind, radioId: string | null, what: string, why: string) =>
    faults.push({ kind, radioId, what, why });

  for (const end of [a, b]) {
    for (const [owner, band] of [
      ["radio", end.model.bandMHz],
      ["antenna", end.antenna.bandMHz],
    ] as const) {
      if (a.radio.frequencyMHz < band[0] || a.radio.frequencyMHz > band[1]) {
        add(
          "outOfBand",
          end.radio.id,
          `${a.radio.frequencyMHz} MHz is outside the ${owner}'s ${band[0]}–${band[1]} MHz`,
          "A radio neither sends nor hears outside its band.",
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
      );
    }
  }

  if (!answer.path) {
    const { problem } = answer;
    const what =
      problem?.kind === "hole"
        ? `the terrain has a hole of ${problem.count} samples from ${problem.firstKm.toFixed(2)} km on`
        : `the ends are ${answer.distanceM.toFixed(1)} m apart`;
    add(
      "unanswered",
      null,
      what,
      problem?.kind === "hole"
        ? "Unknown ground is not sea level: fill the hole before trusting the path."
        : "Both ends stand at one place; there is no path between them.",
    );
    return faults;
  }

  const { clearance, aToB, bToA, aPointing, bPointing, diffractionDb, trees, treesAlone } = answer.path;
  const at = `at ${clearance.worstKm.toFixed(2)} km`;
  const wantedClear = wantedText(clearance, world.plan);
  if (treesAlone && trees.depthM > 0 && isServed(world.plan, a.radio.frequencyMHz, answer)) {
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
      `${clearance.worstShare < 0 ? `${(-clearance.worstShare).toFixed(2)} of the zone over the line` : `${clearance.worstShare.toFixed(2)} of the zone clear`} ${at}, ${clearance.intrusionM.toFixed(1)} m into the wanted ${wantedClear}`,
      "The straight line itself is cut; what arrives is diffracted and changes with weather and leaves.",
    );
  } else if (clearance.state === "tight") {
    add(
      "tight",
      null,
      `${clearance.worstShare.toFixed(2)} of the zone clear ${at}, ${clearance.intrusionM.toFixed(1)} m short of ${wantedClear}`,
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
      );
    }
    if (!tape.limit.covered) {
      add("uncovered", end.radio.id, tape.limit.reason, "Tejado has no cap to hold the radiated power against here.");
    } else if (tape.overCapDb > 0.05) {
      const cap = tape.limit.eirpCapDbm;
      add(
        "overEirp",
        end.radio.id,
        `${tape.eirpDbm.toFixed(1)} dBm EIRP${cap === null ? "" : ` against ${cap.toFixed(1)} dBm`}: turn down by ${tape.overCapDb.toFixed(1)} dB`,
        `${tape.limit.source}: ${tape.limit.reason}.`,
      );
    }
  }
  const weaker = aToB.marginLeftDb <= bToA.marginLeftDb ? aToB : bToA;
  const toward = weaker === aToB ? b.placeName : a.placeName;
  const wanted = wantedMarginDb(world.plan, a.radio.frequencyMHz);
  if (weaker.fadeMarginDb < 0 || !weaker.modulation) {
    add(
      "weak",
      null,
      `${withMinus(weaker.levelDbm)} dBm at ${toward}, ${(weaker.sensitivityDbm - weaker.levelDbm).toFixed(1)} dB under the sensitivity`,
      "Not even the most robust modulation holds.",
    );
  } else if (weaker.marginLeftDb < wanted) {
    add(
      "margin",
      null,
      `${withMinus(weaker.marginLeftDb)} dB left at ${toward}, ${wanted} dB wanted`,
      weaker.rainDb > 0
        ? `Rain takes ${weaker.rainDb.toFixed(1)} dB for ${(100 - world.plan.availabilityPercent).toFixed(3)} % of the year.`
        : "Fading, wind and growing noise will eat the rest.",
    );
  }
  if (a.radio.polarization !== b.radio.polarization) {
    add(
      "polarization",
      b.radio.id,
      `${a.radio.polarization} facing ${b.radio.polarization}: ${aToB.crossedDb.toFixed(0)} dB lost`,
      "Both ends must stand the same way, or the chains fall away.",
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
    if (offDb >= MISAIM_DB && weaker.marginLeftDb < wanted) {
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
      add(
        verdict.state,
        null,
        `measured ${withMinus(verdict.worstDeviationDb)} dB against the prediction`,
        lead ? `${lead.title}: ${lead.reason}` : verdict.floor.text,
      );
    }
  }
  return faults.sort((x, y) => FINDING_KINDS.indexOf(x.kind) - FINDING_KINDS.indexOf(y.kind));
}

/** One decimal, and the minus sign that is printed rather than the hyphen that is typed. */
function withMinus(value: number): string {
  return value.toFixed(1).replace("-", "−");
}

/** A fault placed in the plan, its people counted, remedies still to come. */
export function findingOf(world: World, link: Link, fault: Fault): Finding {
  const { a, b } = linkEnds(world, link);
  const end: LinkEnd | null = fault.radioId === a.radio.id ? a : fault.radioId === b.radio.id ? b : null;
  return {
    ...fault,
    id: `${link.id}:${fault.kind}:${fault.radioId ?? ""}`,
    linkId: link.id,
    where: end ? `${end.radio.name} at ${end.placeName}` : `${a.placeName} – ${b.placeName}`,
    people: peopleBehind(world, link),
    remedies: null,
  };
}
