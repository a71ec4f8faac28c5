import { peakGainDbi } from "../antenna";
import { inverseGeodesic } from "../geodesy";
import { isServed, weakestMarginDb, type LinkAnswer } from "../link";
import {
  endOf,
  linkEnds,
  withEdits,
  type Edit,
  type Link,
  type LinkEnd,
  type Measurement,
  type Radio,
  type World,
} from "../plan";
import { faultsOf, type Fault, type Remedy } from "./finding";
import { antennasFor, powerWithinCapDbm, radioModelsFor, withPowerInCap } from "./kit";
import { answerOf, type ProfileSource } from "./outcome";

const MOST_REMEDIES = 4;
/** Heights are set to half metres, as a crew would. */
const upToHalf = (heightM: number) => Math.ceil(heightM * 2) / 2;

/** A change to be tried. */
export interface Candidate {
  label: string;
  edits: Edit[];
}
interface Bench {
  world: World;
  link: Link;
  a: LinkEnd;
  b: LinkEnd;
  answer: LinkAnswer;
  profileBetween: ProfileSource;
}

const edit = (radio: Radio): Edit => ({ kind: "radios", id: radio.id, row: radio });
const ruleUse = (link: Link) => (link.kind === "bridge" ? "ptp" : "ptmp");

/** Raising either end, or both, until the wanted share of the zone is free. */
function* higher({ a, b, answer, world, link, profileBetween }: Bench): Generator<Candidate> {
  if (!answer.path) return;
  const { leastHeightAM, leastHeightBM } = answer.path.clearance;
  for (const [end, least] of [
    [a, leastHeightAM],
    [b, leastHeightBM],
  ] as const) {
    const heightM = upToHalf(least);
    if (heightM > end.radio.heightM && heightM <= end.maxHeightM) {
      yield {
        label: `Raise the ${end.placeName} end from ${end.radio.heightM} to ${heightM} m`,
        edits: [edit({ ...end.radio, heightM })],
      };
    }
  }
  for (const [full, other] of [
    [a, b],
    [b, a],
  ] as const) {
    if (full.radio.heightM >= full.maxHeightM) continue;
    const raised = edit({ ...full.radio, heightM: full.maxHeightM });
    const tried = answerOf(withEdits(world, [raised]), link, profileBetween);
    const least = tried.path && (other === a ? tried.path.clearance.leastHeightAM : tried.path.clearance.leastHeightBM);
    if (least === null) continue;
    const heightM = upToHalf(least);
    if (heightM > other.radio.heightM && heightM <= other.maxHeightM) {
      yield {
        label: `Raise ${full.placeName} to ${full.maxHeightM} m and ${other.placeName} to ${heightM} m`,
        edits: [raised, edit({ ...other.radio, heightM })],
      };
    }
  }
}

/** Serving the subscriber from another sector, with the kit that the sector's band needs. */
function* elsewhere({ world, link, b }: Bench): Generator<Candidate> {
  if (link.kind !== "access") return;
  for (const sector of world.radios.values()) {
    if (sector.role !== "sector" || sector.id === link.aRadioId || sector.siteId === null) continue;
    const keeps =
      b.model.bandMHz[0] <= sector.frequencyMHz &&
      sector.frequencyMHz <= b.model.bandMHz[1] &&
      b.model.widthsMHz.includes(sector.widthMHz);
    const model = keeps
      ? b.model
      : radioModelsFor(world, "subscriber", sector.frequencyMHz).find((m) => m.widthsMHz.includes(sector.widthMHz));
    const antenna = keeps ? b.antenna : antennasFor(world, "subscriber", sector.frequencyMHz).at(-1);
    if (!model || !antenna) continue;
    const radio: Radio = {
      ...b.radio,
      radioModelId: model.id,
      antennaModelId: antenna.id,
      frequencyMHz: sector.frequencyMHz,
      widthMHz: sector.widthMHz,
      polarization: sector.polarization,
      azimuthDeg: null,
      tiltDownDeg: null,
    };
    radio.txPowerDbm = powerWithinCapDbm(world, model, antenna, radio, "ptmp");
    yield {
      label: `Serve from ${world.sites.get(sector.siteId)!.name}, ${sector.name}${keeps ? "" : ` with ${model.model}`}`,
      edits: [edit(radio), { kind: "links", id: link.id, row: { ...link, aRadioId: sector.id, state: "planned" } }],
    };
  }
}

/** More level: power up to the cap, a bigger antenna at the ends that aim, a narrower channel. */
function* stronger({ world, link, a, b }: Bench): Generator<Candidate> {
  const use = ruleUse(link);
  const raised: Radio[] = [];
  for (const end of [a, b]) {
    const cap = powerWithinCapDbm(world, end.model, end.antenna, end.radio, use);
    if (cap > end.radio.txPowerDbm) raised.push({ ...end.radio, txPowerDbm: cap });
  }
  if (raised.length > 0) {
    yield {
      label: `Use the power that the cap leaves: ${raised.map((r) => `${r.name} ${r.txPowerDbm} dBm`).join(", ")}`,
      edits: raised.map(edit),
    };
  }
  const ends = [b, a].filter((end) => end.radio.azimuthDeg === null);
  for (const antenna of antennasFor(world, b.radio.role, a.radio.frequencyMHz)) {
    const gain = peakGainDbi(antenna, a.radio.frequencyMHz);
    const better = ends.filter((end) => gain > peakGainDbi(end.antenna, a.radio.frequencyMHz));
    if (better.length === 0) continue;
    const changed = better.map((end) => ({
      ...end.radio,
      antennaModelId: antenna.id,
      txPowerDbm: powerWithinCapDbm(world, end.model, antenna, end.radio, use),
    }));
    yield {
      label: `${antenna.maker} ${antenna.model} (${gain.toFixed(0)} dBi) at ${better.map((end) => end.placeName).join(" and ")}`,
      edits: changed.map(edit),
    };
  }
  const others = [...world.links.values()].some((other) => other.id !== link.id && other.aRadioId === link.aRadioId);
  if (!others) {
    const widths = a.model.widthsMHz.filter((width) => width < a.radio.widthMHz && b.model.widthsMHz.includes(width));
    for (const widthMHz of widths.sort((x, y) => y - x)) {
      yield {
        label: `Narrow the channel from ${a.radio.widthMHz} to ${widthMHz} MHz`,
        edits: [a, b].map((end) => edit({ ...end.radio, widthMHz })),
      };
    }
  }
}

function* turnedDown({ world, link, a, b }: Bench, fault: Fault): Generator<Candidate> {
  const end = fault.radioId === a.radio.id ? a : b;
  const radio = withPowerInCap(world, end, ruleUse(link));
  if (radio !== end.radio) {
    yield {
      label: `Turn ${end.radio.name} down from ${end.radio.txPowerDbm} to ${radio.txPowerDbm} dBm`,
      edits: [edit(radio)],
    };
  }
  const other = end === a ? b : a;
  const otherRadio = withPowerInCap(world, other, ruleUse(link));
  if (radio !== end.radio && otherRadio !== other.radio) {
    yield {
      label: `Turn both ends down, to ${radio.txPowerDbm} and ${otherRadio.txPowerDbm} dBm`,
      edits: [edit(radio), edit(otherRadio)],
    };
  }
}

function* reachable({ world, link, a, b }: Bench, fault: Fault): Generator<Candidate> {
  const end = fault.radioId === a.radio.id ? a : b;
  yield {
    label: `Mount the bracket of ${end.radio.name} turned over`,
    edits: [edit({ ...end.radio, bracketTurned: !end.radio.bracketTurned })],
  };
  for (const antenna of antennasFor(world, end.radio.role, end.radio.frequencyMHz)) {
    if (antenna.id === end.antenna.id) continue;
    const txPowerDbm = Math.min(
      end.radio.txPowerDbm,
      powerWithinCapDbm(world, end.model, antenna, end.radio, ruleUse(link)),
    );
    yield {
      label: `${antenna.maker} ${antenna.model}, whose bracket reaches ${antenna.bracketDownDeg}° down and ${antenna.bracketUpDeg}° up`,
      edits: [edit({ ...end.radio, antennaModelId: antenna.id, txPowerDbm })],
    };
  }
}

function* inBand({ world, link, a, b }: Bench): Generator<Candidate> {
  const low = Math.max(...[a, b].flatMap((end) => [end.model.bandMHz[0], end.antenna.bandMHz[0]]));
  const high = Math.min(...[a, b].flatMap((end) => [end.model.bandMHz[1], end.antenna.bandMHz[1]]));
  if (low >= high) return;
  const raster = a.model.rasterMHz;
  const frequencyMHz = Math.round((low + high) / 2 / raster) * raster;
  const changed = [a, b].map((end) => ({ ...end.radio, frequencyMHz }));
  yield {
    label: `Move the link to ${frequencyMHz} MHz`,
    edits: changed.map((radio, i) => edit(withPowerInCap(world, { ...[a, b][i]!, radio }, ruleUse(link)))),
  };
}

function* lower({ a, b }: Bench, fault: Fault): Generator<Candidate> {
  const end = fault.radioId === a.radio.id ? a : b;
  yield {
    label: `Lower ${end.radio.name} to the structure's ${end.maxHeightM} m`,
    edits: [edit({ ...end.radio, heightM: end.maxHeightM })],
  };
}

function* aligned({ a, b }: Bench): Generator<Candidate> {
  yield {
    label: `Set ${b.radio.name} to ${a.radio.polarization}`,
    edits: [edit({ ...b.radio, polarization: a.radio.polarization })],
  };
  yield {
    label: `Set ${a.radio.name} to ${b.radio.polarization}`,
    edits: [edit({ ...a.radio, polarization: b.radio.polarization })],
  };
}

function* turned({ a, b }: Bench, fault: Fault): Generator<Candidate> {
  const end = fault.radioId === a.radio.id ? a : b;
  const other = end === a ? b : a;
  const azimuthDeg = Math.round(inverseGeodesic(end.place, other.place).azimuthDeg);
  yield { label: `Turn ${end.radio.name} to ${azimuthDeg}°`, edits: [edit({ ...end.radio, azimuthDeg })] };
}

function* candidates(bench: Bench, fault: Fault): Generator<Candidate> {
  switch (fault.kind) {
    case "blocked":
    case "tight":
    case "trees":
      yield* higher(bench);
      yield* elsewhere(bench);
      return;
    case "weak":
    case "margin":
      yield* stronger(bench);
      yield* higher(bench);
      yield* elsewhere(bench);
      return;
    case "overEirp":
      return yield* turnedDown(bench, fault);
    case "outOfBand":
    case "uncovered":
    case "indoorOnly":
    case "tooFar":
      return yield* inBand(bench);
    case "tooHigh":
      return yield* lower(bench, fault);
    case "polarization":
      return yield* aligned(bench);
    case "bracket":
      return yield* reachable(bench, fault);
    case "misaimed":
      yield* elsewhere(bench);
      return yield* turned(bench, fault);
    case "failed":
    case "doubtful":
    case "unanswered":
      return;
  }
}

/** Every change of one link's heights, power, antennas, width or sector that could help it, untried. */
export function* simpleChanges(
  world: World,
  link: Link,
  answer: LinkAnswer,
  profileBetween: ProfileSource,
): Generator<Candidate & { kind: "height" | "kit" | "elsewhere" }> {
  const bench: Bench = { world, link, ...linkEnds(world, link), answer, profileBetween };
  for (const candidate of higher(bench)) yield { kind: "height", ...candidate };
  for (const candidate of stronger(bench)) yield { kind: "kit", ...candidate };
  for (const candidate of elsewhere(bench)) yield { kind: "elsewhere", ...candidate };
}

const signed = (value: number) => `${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(1)}`;

/** What a tried change makes of the link, in the figures a planner asks for. */
function effectOf(world: World, before: LinkAnswer, after: LinkAnswer, costEur: number): string {
  const path = after.path!;
  const margin = weakestMarginDb(after)!;
  const change = before.path ? ` (${signed(margin - weakestMarginDb(before)!)} dB)` : "";
  const cost = costEur === 0 ? "" : `; ${costEur > 0 ? "+" : "−"}€${Math.abs(costEur).toFixed(0)}`;
  return `${path.clearance.worstShare.toFixed(2).replace("-", "−")} of the zone clear; margin ${margin.toFixed(1).replace("-", "−")} dB${change}; ${path.aToB.rateMbps.toFixed(0)}/${path.bToA.rateMbps.toFixed(0)} Mbit/s${cost}`;
}

export function costOf(world: World): number {
  let sum = 0;
  for (const radio of world.radios.values()) {
    sum +=
      (world.radioModels.get(radio.radioModelId)?.priceEur ?? 0) +
      (world.antennaModels.get(radio.antennaModelId)?.priceEur ?? 0);
  }
  return sum;
}

/**
 * Ways out of one fault. Each is tried on the whole link first and kept only if the fault is gone and no worse kind
 * has taken its place. Served outcomes first, then the cheaper, then the smaller change.
 */
export function remediesFor(
  world: World,
  link: Link,
  answer: LinkAnswer,
  fault: Fault,
  measurement: Measurement | null,
  profileBetween: ProfileSource,
): Remedy[] {
  const { a, b } = linkEnds(world, link);
  if (fault.kind === "failed" || fault.kind === "doubtful") {
    return [{ label: "Write down a new reading", effect: fault.why, edits: [], visit: true }];
  }
  const had = new Set(faultsOf(world, link, answer, measurement).map((found) => found.kind));
  const found: (Remedy & { served: boolean; costEur: number })[] = [];
  const bench: Bench = { world, link, a, b, answer, profileBetween };
  for (const { label, edits } of candidates(bench, fault)) {
    const tried = withEdits(world, edits);
    const triedLink = tried.links.get(link.id)!;
    const after = answerOf(tried, triedLink, profileBetween);
    const left = faultsOf(tried, triedLink, after, measurement);
    const resolved = !left.some((other) => other.kind === fault.kind && other.radioId === fault.radioId);
    if (!after.path || !resolved || left.some((other) => !had.has(other.kind))) continue;
    const costEur = costOf(tried) - costOf(world);
    const served = isServed(tried.plan, endOf(tried, triedLink.aRadioId).radio.frequencyMHz, after);
    found.push({ label, effect: effectOf(world, answer, after, costEur), edits, visit: false, served, costEur });
  }
  return found
    .sort((x, y) => Number(y.served) - Number(x.served) || x.costEur - y.costEur || x.edits.length - y.edits.length)
    .slice(0, MOST_REMEDIES)
    .map(({ label, effect, edits, visit }) => ({ label, effect, edits, visit }));
}
