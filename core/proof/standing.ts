import { carriesDemand, wantedMarginDb, type LinkAnswer, type Tape } from "../link";
import { linkEnds, type Link, type LinkEnd, type LinkState, type Measurement, type Plan, type World } from "../plan";
import { limitReason, overCap } from "../regulation";
import { figure } from "../words";
import { newestMeasurements } from "./newest";
import { judge } from "./proof";

/** One criterion that a link is held to, with its figure. */
export interface Criterion {
  key: "rules" | "match" | "overload" | "margin" | "rate" | "floor" | "measurement";
  passed: boolean;
  text: string;
}

/** How a link stands: what its measurements say, whether it would work as planned, and by which criteria. */
interface LinkStanding {
  state: LinkState;
  /** Null where the path has no answer. */
  worksOnPaper: boolean | null;
  criteria: Criterion[];
}

/**
 * A link's state by its newest measurement, judged by the plan's criteria of today: proven, doubtful or failed. A link that was planned anew
 * since (on another sector, say) is planned until it is measured again.
 */
export function stateBy(
  plan: Plan,
  link: Link,
  ends: { a: LinkEnd; b: LinkEnd },
  newest: Measurement | null,
): LinkState {
  return newest === null || link.state === "planned" ? "planned" : judge(plan, ends.a, ends.b, newest).state;
}

/** What a reading came to, with all that it was judged by: rows that stay as they are keep their objects through every change. */
interface Judged {
  by: readonly unknown[];
  state: LinkState;
}
const judged = new WeakMap<Measurement, Judged>();

/** The state of every link that was measured, by its id; all others are planned. After a change only readings that it bears on are judged again. */
export function linkStates(world: World): ReadonlyMap<string, LinkState> {
  const states = new Map<string, LinkState>();
  for (const [linkId, newest] of newestMeasurements(world)) {
    const link = world.links.get(linkId);
    if (!link) continue;
    const radios = [world.radios.get(link.aRadioId), world.radios.get(link.bRadioId)];
    const by = [
      ...[world.plan, link, ...radios],
      ...radios.map((radio) => world.radioModels.get(radio?.radioModelId ?? "")),
      ...radios.map((radio) => world.antennaModels.get(radio?.antennaModelId ?? "")),
    ];
    const before = judged.get(newest);
    const isSame = before?.by.every((one, i) => one === by[i]);
    const state = isSame ? before!.state : stateBy(world.plan, link, linkEnds(world, link), newest);
    if (!isSame) judged.set(newest, { by, state });
    states.set(linkId, state);
  }
  return states;
}

const rateText = (mbps: number) => figure(mbps, mbps < 10 ? 1 : 0);

/** What an answered link must satisfy before anybody climbs, each with its figure, the gravest first. */
export function paperCriteria(plan: Plan, { a, b }: { a: LinkEnd; b: LinkEnd }, answer: LinkAnswer): Criterion[] {
  const { path } = answer;
  if (!path) return [];
  const ways: [Tape, LinkEnd, LinkEnd][] = [
    [path.aToB, a, b],
    [path.bToA, b, a],
  ];
  const worst = (of: (tape: Tape) => number) => ways.reduce((least, one) => (of(one[0]) < of(least[0]) ? one : least));
  const rules = ways.flatMap(([{ closed, limit, eirpDbm }, from]) => {
    const over = overCap({ eirpDbm, txPowerDbm: from.radio.txPowerDbm }, limit);
    return closed !== null
      ? [`${from.placeName}: ${closed}`]
      : over
        ? [`${from.placeName}: ${over.words} (${limitReason(limit)})`]
        : [];
  });
  const [margin, , marginAt] = worst(({ marginLeftDb }) => marginLeftDb);
  const wantedDb = wantedMarginDb(plan, a.radio.frequencyMHz);
  const [weakest, , weakestAt] = worst(({ totalLevelDbm }) => totalLevelDbm);
  const overload = ways.find(([{ overloadDb }]) => overloadDb > 0);
  const { demand } = b;
  return [
    {
      key: "rules",
      passed: rules.length === 0,
      text: rules.join("; ") || "both ends within the caps of the rule set",
    },
    { key: "match", passed: path.mismatches.length === 0, text: path.mismatches.join("; ") || "both ends match" },
    {
      key: "overload",
      passed: !overload,
      text: overload
        ? `${overload[2].placeName}: ${figure(overload[0].overloadDb)} dB too strong for its receiver`
        : "neither receiver overloaded",
    },
    {
      key: "margin",
      passed: ways.every(([tape]) => tape.modulation !== null && tape.marginLeftDb >= wantedDb),
      text: `fade margin ${figure(margin.marginLeftDb)} dB at ${marginAt.placeName}, target ${figure(wantedDb)} dB`,
    },
    ...(demand
      ? [
          {
            key: "rate" as const,
            passed: carriesDemand(demand, answer),
            text: `${rateText(path.aToB.rateMbps)} of ${rateText(demand.downMbps)} Mbit/s to ${b.placeName}, ${rateText(path.bToA.rateMbps)} of ${rateText(demand.upMbps)} Mbit/s to ${a.placeName}`,
          },
        ]
      : []),
    {
      key: "floor",
      passed: weakest.totalLevelDbm >= plan.proofFloorDbm,
      text: `total signal ${figure(weakest.totalLevelDbm)} dBm at ${weakestAt.placeName}; acceptance floor ${figure(plan.proofFloorDbm)} dBm`,
    },
  ];
}

/** How a link stands by its prediction and its newest measurement: the one answer for lists, maps, sheets, packs and certificates. */
export function standingOf(
  world: World,
  link: Link,
  answer: LinkAnswer | null,
  newest: Measurement | null,
): LinkStanding {
  const ends = linkEnds(world, link);
  const state = stateBy(world.plan, link, ends, newest);
  const paper = answer ? paperCriteria(world.plan, ends, answer) : [];
  const verdict = newest && state !== "planned" ? judge(world.plan, ends.a, ends.b, newest) : null;
  return {
    state,
    worksOnPaper: answer?.path ? paper.every(({ passed }) => passed) : null,
    criteria: [
      ...paper,
      ...(verdict
        ? [
            {
              key: "measurement" as const,
              passed: state === "proven",
              text: `measured ${newest!.measuredAt.slice(0, 10)}: ${verdict.summary || "all criteria passed"}`,
            },
          ]
        : []),
    ],
  };
}

/** Whether a measurement was judged by other criteria when it was taken than the plan has now, in words; null where they are the same or were not kept. */
export function criteriaChanged(plan: Plan, { floorDbm, deviationDb }: Measurement): string | null {
  if (floorDbm === null || deviationDb === null) return null;
  if (floorDbm === plan.proofFloorDbm && deviationDb === plan.proofDeviationDb) return null;
  return `When it was measured the criteria were a floor of ${figure(floorDbm)} dBm and ±${figure(deviationDb)} dB from the prediction; the plan now has ${figure(plan.proofFloorDbm)} dBm and ±${figure(plan.proofDeviationDb)} dB.`;
}
