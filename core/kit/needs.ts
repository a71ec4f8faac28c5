import type { AntennaModel } from "../antenna";
import type { Part, Radio, World } from "../plan";
import { bears, CABLES, INJECTOR_WORDS } from "../power";
import { boxHolds, type RadioModel } from "../radio";
import { suits } from "./kit";

/** Something without which a radio or an antenna does not work, and what of the library would do. */
export interface Need {
  what: string;
  /** What it has to be like. */
  asked: string;
  /** It lies in the box, so that nothing has to be bought. */
  isBoxed: boolean;
  /** Names of what fits, cheapest first. */
  fits: string[];
}

type Library = Pick<World, "antennaModels" | "radioModels" | "parts">;
type Sheet = { maker: string; model: string; priceEur: number };

const named = (sheets: Sheet[]): string[] =>
  sheets.sort((x, y) => x.priceEur - y.priceEur).map(({ maker, model }) => `${maker} ${model}`);

const overlap = (x: readonly [number, number], y: readonly [number, number]): boolean => x[0] <= y[1] && y[0] <= x[1];

/** Joints that are made with a jumper for each chain. */
const JACKS: readonly AntennaModel["join"][] = ["two jacks", "four jacks"];

/** Everything that a radio asks for beside itself, under a rule set, with what of the library fits. */
export function needsOfRadio(library: Library, radio: RadioModel, ruleSetId: string): Need[] {
  const parts = (kinds: readonly Part["kind"][], fits: (part: Part) => boolean = () => true) =>
    named([...library.parts.values()].filter((part) => kinds.includes(part.kind) && fits(part)));
  // What else lies in a box stands on the sheet by itself: whether it is enough, or the right one, nobody knows.
  const need = (what: string, asked: string, fits: string[], isBoxed = false): Need => ({ what, asked, isBoxed, fits });
  const feeds = ({ standard, watts }: Part) =>
    bears(radio.powerInput, standard as Radio["injector"]) && (watts ?? Infinity) >= radio.loadW;
  const cables = Object.entries(CABLES).filter(
    ([, cable]) => cable.isOutdoor && cable.mostMbps >= (radio.portMbps ?? 0),
  );
  const [thinnest, thickest] = radio.poleMm;
  const isWithJacks = JACKS.some((join) => join !== null && radio.joins.includes(join));
  return [
    need(
      "Antenna",
      `${radio.bandMHz[0]} to ${radio.bandMHz[1]} MHz, joined by ${radio.joins.join(" or ") || "what its sheet does not say"}`,
      named(
        [...library.antennaModels.values()].filter(
          (antenna) => overlap(antenna.bandMHz, radio.bandMHz) && suits(antenna, radio.use, radio),
        ),
      ),
      radio.joins.length === 1 && radio.joins[0] === "in one piece",
    ),
    need(
      "Power",
      `${INJECTOR_WORDS[radio.powerInput]} of at least ${radio.loadW} W, or a switch that gives it`,
      parts(["injector", "switch"], feeds),
      boxHolds(radio, "injector", ruleSetId),
    ),
    need(
      "Cable",
      `${cables.map(([, { name }]) => name).join(" or ")}${radio.portMbps === null ? "" : `: its socket carries ${radio.portMbps} Mbit/s`}`,
      parts(["cable"], ({ standard }) => cables.some(([kind]) => kind === standard)),
    ),
    ...(isWithJacks ? [need("Jumpers", `one for each of ${radio.chains} chains`, parts(["jumper"]))] : []),
    need(
      "Bracket",
      `its own closes around ${thinnest} to ${thickest} mm; another where the pole is thinner or thicker`,
      parts(["bracket"], ({ poleMm }) => poleMm !== null),
      true,
    ),
    need("Surge arresters", "one at either end of copper", parts(["arrester"])),
    need(
      "Earth lead",
      `at least ${radio.earthMm2} mm², and what the local code asks`,
      parts(
        ["cable"],
        ({ standard, crossSectionMm2 }) => standard === "earth" && (crossSectionMm2 ?? 0) >= radio.earthMm2,
      ),
    ),
  ];
}

/** Radios of the library that an antenna can be joined to, cheapest first. */
export const radiosForAntenna = (library: Library, antenna: AntennaModel): string[] =>
  named(
    [...library.radioModels.values()].filter(
      (radio) => overlap(antenna.bandMHz, radio.bandMHz) && suits(antenna, radio.use, radio),
    ),
  );
