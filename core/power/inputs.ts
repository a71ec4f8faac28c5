import type { RadioModel } from "../radio";
import { CABLE_WORDS, INJECTOR_NAMES, type RadioRow } from "../plan";

/** How a kind of power comes over a data cable. */
interface PowerRule {
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

/** The same of a lead of its own from a 48 V battery or supply: most such radios take 40 to 60 V. */
export const DC_RULE = { sourceV: 48, leastV: 40, mostW: 150 } as const;

/** Kinds of power within a sentence: "an 802.3at injector". */
export const INJECTOR_WORDS = Object.fromEntries(
  Object.entries(INJECTOR_NAMES).map(([kind, name]) => [
    kind,
    /^no /.test(name) ? name : `${name.startsWith("8") ? "an" : "a"} ${name}`,
  ]),
) as Readonly<Record<RadioRow["injector"], string>>;

/** A kind of cable: its conductors by gauge, the fastest that it carries over 100 m, and whether sun and lightning are what it is made for. */
interface Cable {
  name: string;
  /** Null for glass. */
  awg: number | null;
  mostMbps: number;
  isOutdoor: boolean;
}

/** Every kind of cable that a radio can hang on. */
export const CABLES: Readonly<Record<RadioRow["cableKind"], Cable>> = {
  cat5e: { name: CABLE_WORDS.cat5e, awg: 24, mostMbps: 1000, isOutdoor: true },
  cat6a: { name: CABLE_WORDS.cat6a, awg: 23, mostMbps: 10_000, isOutdoor: true },
  cat5eIndoor: { name: CABLE_WORDS.cat5eIndoor, awg: 24, mostMbps: 1000, isOutdoor: false },
  fibre: { name: CABLE_WORDS.fibre, awg: null, mostMbps: 100_000, isOutdoor: true },
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

/** Kinds of power that a socket of a switch on direct current is set to, each as its radio asks. */
const DC_SWITCH_GIVES: readonly string[] = ["passive24", "802.3af", "802.3at", "dc48"];

/** Whether a switch of a standard feeds a kind of radio: its own kind, or what each socket of a switch on direct current is set to. */
export const switchFeeds = (standard: string, input: RadioModel["powerInput"]): boolean =>
  standard === "dc48" ? DC_SWITCH_GIVES.includes(input) : bears(input, standard as RadioRow["injector"]);

/** Kinds of power that do not turn their poles about by themselves: over a crossed cable or lead plus and minus change places. */
const HAS_POLES: readonly string[] = ["passive24", "dc48"];

/** Whether a crossed cable or lead brings a radio's power the wrong way round; IEEE 802.3 asks its devices to bear either polarity. */
export const isTurnedAbout = ({ injector, wiring }: Pick<RadioRow, "injector" | "wiring">): boolean =>
  wiring === "crossed" && HAS_POLES.includes(injector);

/** Whether an injector harms a radio rather than only failing to feed it: an earlier standard asks, finds that it cannot, and gives nothing. */
export function harms(input: RadioModel["powerInput"], injector: RadioRow["injector"]): boolean {
  if (injector === "none" || bears(input, injector)) return false;
  return !STANDARDS.includes(input) || !STANDARDS.includes(injector);
}
