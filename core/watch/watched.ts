import type { Bound } from "../link";
import type { Buckets } from "./buckets";

/** What a link was promised, as the tape predicts it now or as its proof was held against. */
export interface WatchedLink {
  linkId: string;
  chains: 1 | 2;
  /** Level on one chain as each end should hear it, dBm. */
  levelDbm: { a: number; b: number };
  noiseDbm: { a: number; b: number };
  /** Rate toward each end, Mbit/s. */
  rateMbps: { a: number; b: number };
  /** How far a level may stand from the prediction before it counts as another one, dB. */
  bandDb: number;
  latDeg: number;
  /** What leaves add in summer where the path goes through trees, dB; 0 elsewhere. */
  leafDb: number;
  /** Share of the year and of its worst month in which the tape promises it, per cent, and how such a bound reads. */
  availabilityPercent: number;
  worstMonthPercent: number;
  availabilityBound: Bound;
  /** How far each end looks past its mate: to the left of it, and below it, degrees. */
  offDeg: { a: Off; b: Off };
  /** Whether each end hangs on a battery that the sun fills. */
  isSolar: { a: boolean; b: boolean };
}

/** How far an antenna looks past what it should see, degrees. */
export interface Off {
  azimuthDeg: number;
  elevationDeg: number;
}

/** Hours of one series without gaps in their counting: the first is `fromHour` (hours since 1970), and an hour of which nothing is known has no count. */
export interface HourSeries {
  fromHour: number;
  hours: Buckets;
  /** Nothing is known of any hour outside of these; left out where that may be. */
  toldHours?: readonly [from: number, to: number];
}

/** All that was delivered of one link over the same hours. */
export interface Delivered {
  a: HourSeries;
  b: HourSeries;
  weather: HourSeries;
  /** How many series of the plan told anything in each hour; null where that is not known, and all of them are taken to have been asked. */
  asked: HourSeries | null;
}
