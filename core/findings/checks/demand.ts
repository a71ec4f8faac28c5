import { carriesDemand, holds } from "../../link";
import type { RequiredRate } from "../../plan";
import { elsewhere, higher, stronger, wider } from "../linkChanges";
import type { Check } from "./check";

const rateText = (mbps: number) => (mbps < 10 ? mbps.toFixed(1) : mbps.toFixed(0));

const WHY: Record<"customer" | "typed" | "feed", string> = {
  customer: "The link holds, but even alone on the sector it does not carry what was asked for.",
  typed: "The bridge holds, but carries less than it must.",
  feed: "The bridge holds, but carries less than the feed that it brings. Type what it must carry where that is enough.",
};

export const demand: Check = {
  id: "demand",
  title: "Less than asked for",
  stage: "paths",
  isSearched: true,
  isAboutLevel: true,
  comesOfLessPower: true,
  ofPath: ({ world, a, b, answer, path: { aToB, bToA } }) => {
    const { demand: asked } = b;
    if (!holds(world.plan, a.radio.frequencyMHz, answer) || !asked || carriesDemand(asked, answer)) return [];
    const from = "from" in asked ? (asked as RequiredRate).from : "customer";
    // What all behind a bridge use together is the backhaul's own finding.
    if (from === "behind") return [];
    const short = (
      [
        [aToB.rateMbps, asked.downMbps, `to ${b.placeName}`],
        [bToA.rateMbps, asked.upMbps, `from ${b.placeName}`],
      ] as const
    ).filter(([rate, wanted]) => rate < wanted);
    return [
      {
        radioId: null,
        what: short.map(([rate, wanted, way]) => `${rateText(rate)} of ${rateText(wanted)} Mbit/s ${way}`).join(", "),
        why: WHY[from],
        figure: { value: Math.max(...short.map(([rate, wanted]) => wanted - rate)), unit: "Mbit/s" },
        cause: null,
      },
    ];
  },
  *candidates(bench) {
    yield* stronger(bench);
    yield* wider(bench);
    yield* higher(bench);
    yield* elsewhere(bench);
  },
};
