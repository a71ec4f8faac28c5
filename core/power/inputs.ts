import type { RadioModel } from "../radio";
import type { RadioRow } from "../plan";

/** How a kind of power comes over a data cable. */
export interface PowerRule {
  /** At the injector's end under load, V. */
  sourceV: number;
  /** Under this a radio restarts or never starts, V. */
  leastV: number;
  /** What the injector gives, W. */
  mostW: number;
  pairs: 2 | 4;
}

/**
 * Of each kind of power what its injector holds and what its radio needs: IEEE 802.3-2022 clauses 33 and 145 for the standards; what most
 * sheets say where no standard rules. Power on a lead of its own is not here: no data cable carries it.
 */
export const POWER_RULES: Readonly<Record<Exclude<RadioModel["powerInput"], "dc48">, PowerRule>> = {
  passive24: { sourceV: 24, leastV: 18, mostW: 24, pairs: 2 },
  "802.3af": { sourceV: 44, leastV: 37, mostW: 15.4, pairs: 2 },
  "802.3at": { sourceV: 50, leastV: 42.5, mostW: 30, pairs: 2 },
  "802.3bt": { sourceV: 52, leastV: 41.1, mostW: 90, pairs: 4 },
};

/** Kinds of power as they are called on a roof. */
export const INJECTOR_WORDS: Readonly<Record<RadioRow["injector"], string>> = {
  none: "no injector",
  passive24: "a passive 24 V injector",
  "802.3af": "an 802.3af injector",
  "802.3at": "an 802.3at injector",
  "802.3bt": "an 802.3bt injector",
  dc48: "a 48 V DC lead",
};

/** Conductors of each kind of copper, by gauge, and the fastest that it carries over 100 m, Mbit/s. */
export const CABLES: Readonly<Record<RadioRow["cableKind"], { name: string; awg: number | null; mostMbps: number }>> = {
  cat5e: { name: "5e", awg: 24, mostMbps: 1000 },
  cat6a: { name: "6A", awg: 23, mostMbps: 10_000 },
  fibre: { name: "fibre", awg: null, mostMbps: 100_000 },
};

/** Copper Ethernet ends here, both sides of an injector counted together, m. */
export const LONGEST_COPPER_M = 100;

/** Kinds of power that ask first what the radio is, each giving more than the one before. */
const STANDARDS: readonly string[] = ["802.3af", "802.3at", "802.3bt"];

/** Injectors that a radio bears: its own kind, and a later standard that asks first what the radio is. */
export function bears(input: RadioModel["powerInput"], injector: RadioRow["injector"]): boolean {
  const [own, given] = [STANDARDS.indexOf(input), STANDARDS.indexOf(injector)];
  return own >= 0 && given >= 0 ? given >= own : input === injector;
}

/** Whether an injector harms a radio rather than only failing to feed it: an earlier standard asks, finds that it cannot, and gives nothing. */
export function harms(input: RadioModel["powerInput"], injector: RadioRow["injector"]): boolean {
  if (injector === "none" || bears(input, injector)) return false;
  return !STANDARDS.includes(input) || !STANDARDS.includes(injector);
}
