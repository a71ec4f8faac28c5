import type { Side } from "#core/watch";

/** Something that goes wrong on a link from an hour on (hours since 1970); `untilHour` where it was mended or went by itself. */
export type Fault = { fromHour: number; untilHour?: number } & (
  | { kind: "moved"; side: Side; degrees: number; beamwidthDeg: number }
  | { kind: "water"; side: Side; chain: 0 | 1; dbPerWetWeek: number }
  | { kind: "chainDead"; side: Side; chain: 0 | 1 }
  | { kind: "polarization"; side: Side; degrees: number }
  | { kind: "ice"; lossDb: number }
  | { kind: "shade"; side: Side }
  | { kind: "battery"; side: Side; voltsPerMonth: number }
  | { kind: "restarts"; side: Side; atHour: number }
  | { kind: "outsider"; side: Side; riseDb: number; onlyByDay: boolean }
  | { kind: "branch"; dbPerLeafMonth: number }
  | { kind: "outage" }
);
export type FaultKind = Fault["kind"];

/** What a dish loses that stands so many degrees off: 12 dB at its beamwidth (a parabola about the axis). */
export const pointingLossDb = (degrees: number, beamwidthDeg: number) =>
  Math.min(35, 12 * (degrees / beamwidthDeg) ** 2);

/** What is lost where the planes of both ends stand so many degrees across each other. */
export const polarizationLossDb = (degrees: number) =>
  -20 * Math.log10(Math.max(0.05, Math.cos((degrees * Math.PI) / 180)));
