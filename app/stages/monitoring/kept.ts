import type { JobView } from "#jobs";
import type { availabilityOf, LinkWatch, WatchSettings } from "#core/watch";

/** What a window knows of its plan's watch. */
export interface WatchKept {
  settings: WatchSettings;
  hasToken: boolean;
  received: Record<string, unknown>;
  /** A look or a play that is under way, whoever began it. */
  job: JobView | null;
  /** Of the newest look each link without its months, and what customers got of all of them. */
  look: { at: string; links: LinkWatch[]; availability: ReturnType<typeof availabilityOf> } | null;
}

/** Hours or days of a link, as columns of equal length; null where nothing is known. */
export interface LinkChart {
  /** The first, and the width of each, ms. */
  fromMs: number;
  stepMs: number;
  levelA: (number | null)[];
  levelB: (number | null)[];
  secondA: (number | null)[];
  secondB: (number | null)[];
  noiseA: (number | null)[];
  noiseB: (number | null)[];
  rateA: (number | null)[];
  rateB: (number | null)[];
  supplyA: (number | null)[];
  supplyB: (number | null)[];
  wind: (number | null)[];
  rain: (number | null)[];
  /** What was promised on each of them, dBm: leaves come and go. */
  promisedA: number[];
  promisedB: number[];
  bandDb: number;
  noisePromised: { a: number; b: number };
  ratePromised: { a: number; b: number };
  chains: 1 | 2;
  /** Days on which the plan changed its radios or channels. */
  changes: string[];
  /** By day: state of each of its 24 hours, 0 not asked, 1 silent, 2 under half the promised rate, 3 good. */
  hours: { day: string; states: string }[];
}
