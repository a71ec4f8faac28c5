import { COVERAGE_REASONS, NO_SERVER, rateSteps, REASON_WORDS, type CoverageReason } from "#core/coverage";
import { figure } from "../../../ui";
import type { Painted } from "./useCells";

export const LAYERS = ["rate", "down", "up", "level", "levelUp", "snr", "sinr", "why", "server", "lead"] as const;
export type Layer = (typeof LAYERS)[number];
export const LAYER_WORDS: Record<Layer, string> = {
  rate: "Rate, the weaker way",
  down: "Rate toward the customer",
  up: "Rate from the customer",
  level: "Level at the customer",
  levelUp: "Level at the sector",
  snr: "SNR over thermal noise, the weaker way",
  sinr: "SINR, the weaker way",
  why: "Why not",
  server: "Best sector",
  lead: "Lead over the second",
};
/** Layers that say something of several sectors alone. */
export const SHARED_LAYERS: readonly Layer[] = ["server", "lead"];
/** Layers of figures, which contours and rasters can be made of. */
export const isFigure = (layer: Layer): boolean => layer !== "why" && layer !== "server";

type Colour = readonly [red: number, green: number, blue: number, alpha: number];
/** One ramp, even to the eye: from pale plaster to deep sea, lightness alone rising and falling. */
const PALE: Colour = [206, 224, 226, 150];
const DEEP: Colour = [14, 62, 84, 225];
const NOTHING: Colour = [0, 0, 0, 0];

function ramp(share: number): Colour {
  const bounded = Math.min(1, Math.max(0, share));
  return [0, 1, 2, 3].map((i) => Math.round(PALE[i]! + (DEEP[i]! - PALE[i]!) * bounded)) as unknown as Colour;
}

/** One entry of the legend. */
export interface Step {
  word: string;
  colour: Colour;
  /** Dots or strokes over the colour, told apart without it. */
  hatch?: "dots" | "strokes" | "cross" | "bars";
}

const REASON_STEPS: Record<CoverageReason, Step> = {
  held: { word: REASON_WORDS.held, colour: ramp(0.55) },
  blocked: { word: REASON_WORDS.blocked, colour: [122, 46, 93, 190], hatch: "dots" },
  range: { word: REASON_WORDS.range, colour: NOTHING },
  pattern: { word: REASON_WORDS.pattern, colour: [138, 90, 0, 180], hatch: "strokes" },
  uplink: { word: REASON_WORDS.uplink, colour: [168, 72, 31, 190], hatch: "cross" },
  noise: { word: REASON_WORDS.noise, colour: [60, 60, 60, 190], hatch: "bars" },
  unknown: { word: REASON_WORDS.unknown, colour: NOTHING },
};

/** Sectors are told apart by hatch and by colour together: no two of twenty look alike. */
const SECTOR_COLOURS: readonly Colour[] = [
  ramp(0.75),
  [168, 72, 31, 210],
  [122, 46, 93, 210],
  [138, 90, 0, 210],
  ramp(1),
];
const SECTOR_HATCHES: readonly Step["hatch"][] = [undefined, "strokes", "dots", "cross"];
function sectorStep(place: number): Omit<Step, "word"> {
  const hatch = SECTOR_HATCHES[place % SECTOR_HATCHES.length];
  return { colour: SECTOR_COLOURS[place % SECTOR_COLOURS.length]!, ...(hatch ? { hatch } : {}) };
}

const isRate = (layer: Layer): layer is "rate" | "down" | "up" =>
  layer === "rate" || layer === "down" || layer === "up";

/** Bounds of the steps of a layer's figure, rising; those without figures have none. */
export function boundsOf(layer: Layer, painted: Painted): number[] {
  if (isRate(layer)) return rateSteps(painted.table, layer === "rate" ? "weaker" : layer);
  if (layer === "level" || layer === "levelUp") return [-90, -85, -80, -75, -70, -65, -60, -55, -50];
  if (layer === "lead") return [0, 3, 6, 10, 15, 20];
  return layer === "snr" || layer === "sinr" ? [0, 5, 10, 15, 20, 25, 30, 35] : [];
}

export const UNITS: Record<Layer, string> = {
  rate: "Mbit/s",
  down: "Mbit/s",
  up: "Mbit/s",
  level: "dBm",
  levelUp: "dBm",
  snr: "dB",
  sinr: "dB",
  why: "",
  server: "",
  lead: "dB",
};

/** The legend of a layer, strongest first. */
export function legendOf(layer: Layer, painted: Painted): Step[] {
  if (layer === "server") return painted.sectors.map(({ name }, i) => ({ word: name, ...sectorStep(i) }));
  if (layer === "why")
    return COVERAGE_REASONS.filter((one) => one !== "unknown" && one !== "range").map((one) => REASON_STEPS[one]);
  const bounds = boundsOf(layer, painted);
  return bounds
    .map((least, i) => ({
      word: figure(least, isRate(layer) && least < 10 ? 1 : 0),
      colour: ramp((i + 1) / bounds.length),
    }))
    .reverse();
}

/** The figure of a layer in every cell; only layers of figures have one. */
export function figuresOf(layer: Layer, { cells }: Painted): Float32Array {
  switch (layer) {
    case "lead":
      return cells.leadDb;
    case "level":
      return cells.downDbm;
    case "levelUp":
      return cells.upDbm;
    case "snr":
      return cells.snrDb;
    case "sinr":
      return cells.sinrDb;
    case "down":
      return cells.downMbps;
    case "up":
      return cells.upMbps;
    default:
      return cells.rateMbps;
  }
}

const isHatched = (hatch: Step["hatch"], column: number, row: number) =>
  hatch === undefined ||
  (hatch === "dots" && column % 3 === 0 && row % 3 === 0) ||
  (hatch === "strokes" && (column + row) % 4 === 0) ||
  (hatch === "bars" && row % 3 === 0) ||
  (hatch === "cross" && ((column + row) % 5 === 0 || (column - row + 5000) % 5 === 0));

/** Draws a layer, a pixel for each cell. */
export function paint(layer: Layer, painted: Painted, side: number, canvas: HTMLCanvasElement): void {
  canvas.width = canvas.height = side;
  const context = canvas.getContext("2d")!;
  const image = context.createImageData(side, side);
  const pixels = new Uint32Array(image.data.buffer);
  const packed = ([red, green, blue, alpha]: Colour) => ((alpha << 24) | (blue << 16) | (green << 8) | red) >>> 0;
  if (!isFigure(layer)) {
    const { reason, server } = painted.cells;
    const steps: Omit<Step, "word">[] =
      layer === "why"
        ? COVERAGE_REASONS.map((one) => REASON_STEPS[one])
        : Array.from({ length: NO_SERVER }, (_, i) => sectorStep(i));
    const places = layer === "why" ? reason : server;
    const colours = steps.map(({ colour }) => packed(colour));
    for (let cell = 0; cell < places.length; cell++) {
      const step = steps[places[cell]!];
      const isOn = step && isHatched(step.hatch, cell % side, (cell / side) | 0);
      pixels[cell] = isOn ? colours[places[cell]!]! : 0;
    }
  } else {
    const bounds = boundsOf(layer, painted);
    const colours = [0, ...bounds.map((_, i) => packed(ramp((i + 1) / bounds.length)))];
    const figures = figuresOf(layer, painted);
    for (let cell = 0; cell < figures.length; cell++) {
      const value = figures[cell]!;
      let step = 0;
      while (step < bounds.length && value >= bounds[step]!) step++;
      pixels[cell] = colours[step]!;
    }
  }
  context.putImageData(image, 0, 0);
}
