import { carriesDemand, holds } from "../../link";
import { elsewhere, higher, stronger, wider } from "../candidates";
import type { Check } from "./check";

const rateText = (mbps: number) => (mbps < 10 ? mbps.toFixed(1) : mbps.toFixed(0));

export const demand: Check = {
  id: "demand",
  title: "Less than asked for",
  stage: "paths",
  isSearched: true,
  isAboutLevel: true,
  comesOfLessPower: true,
  ofPath: ({ world, a, b, answer, path: { aToB, bToA } }) => {
    if (!holds(world.plan, a.radio.frequencyMHz, answer) || !b.demand || carriesDemand(b.demand, answer)) return [];
    const short = (
      [
        [aToB.rateMbps, b.demand.downMbps, `to ${b.placeName}`],
        [bToA.rateMbps, b.demand.upMbps, `from ${b.placeName}`],
      ] as const
    ).filter(([rate, asked]) => rate < asked);
    return [
      {
        radioId: null,
        what: short.map(([rate, asked, way]) => `${rateText(rate)} of ${rateText(asked)} Mbit/s ${way}`).join(", "),
        why: "The link holds, but even alone on the sector it does not carry what was asked for.",
        figure: { value: Math.max(...short.map(([rate, asked]) => asked - rate)), unit: "Mbit/s" },
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
