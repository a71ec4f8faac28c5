import { COVERAGE_REASONS, rateSteps, REASON_WORDS, type CoverageReason } from "#core/coverage";
import { figure } from "../ui";
import type { Painted } from "./useCells";

export const LAYERS = ["rate", "level", "snr", "why"] as const;
export type Layer = (typeof LAYERS)[number];
export const LAYER_WORDS: Record<Layer, string> = {
  rate: "Rate, the weaker way",
  level: "Level at the customer",
  snr: "SNR, the weaker way",
  why: "Why not",
};

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
  hatch?: "dots" | "strokes" | "cross";
}

const REASON_STEPS: Record<CoverageReason, Step> = {
  held: { word: REASON_WORDS.held, colour: ramp(0.55) },
  blocked: { word: REASON_WORDS.blocked, colour: [122, 46, 93, 190], hatch: "dots" },
  range: { word: REASON_WORDS.range, colour: NOTHING },
  pattern: { word: REASON_WORDS.pattern, colour: [138, 90, 0, 180], hatch: "strokes" },
  uplink: { word: REASON_WORDS.uplink, colour: [168, 72, 31, 190], hatch: "cross" },
  unknown: { word: REASON_WORDS.unknown, colour: NOTHING },
};

/** Bounds of the steps of a layer's figure, rising; `why` has none. */
export function boundsOf(layer: Layer, painted: Painted): number[] {
  if (layer === "rate") return rateSteps(painted.table);
  if (layer === "level") return [-90, -85, -80, -75, -70, -65, -60, -55, -50];
  return layer === "snr" ? [0, 5, 10, 15, 20, 25, 30, 35] : [];
}

export const UNITS: Record<Layer, string> = { rate: "Mbit/s", level: "dBm", snr: "dB", why: "" };

/** The legend of a layer, strongest first. */
export function legendOf(layer: Layer, painted: Painted): Step[] {
  if (layer === "why")
    return COVERAGE_REASONS.filter((one) => one !== "unknown" && one !== "range").map((one) => REASON_STEPS[one]);
  const bounds = boundsOf(layer, painted);
  return bounds
    .map((least, i) => ({
      word: figure(least, layer === "rate" && least < 10 ? 1 : 0),
      colour: ramp((i + 1) / bounds.length),
    }))
    .reverse();
}

/** The figure of a layer in every cell; `why` has none. */
export function figuresOf(layer: Layer, { cells }: Painted): Float32Array {
  return layer === "level" ? cells.downDbm : layer === "snr" ? cells.snrDb : cells.rateMbps;
}

const isHatched = (hatch: Step["hatch"], column: number, row: number) =>
  hatch === undefined ||
  (hatch === "dots" && column % 3 === 0 && row % 3 === 0) ||
  (hatch === "strokes" && (column + row) % 4 === 0) ||
  (hatch === "cross" && ((column + row) % 5 === 0 || (column - row + 5000) % 5 === 0));

/** Draws a layer, a pixel for each cell. */
export function paint(layer: Layer, painted: Painted, side: number, canvas: HTMLCanvasElement): void {
  canvas.width = canvas.height = side;
  const context = canvas.getContext("2d")!;
  const image = context.createImageData(side, side);
  const pixels = new Uint32Array(image.data.buffer);
  const packed = ([red, green, blue, alpha]: Colour) => ((alpha << 24) | (blue << 16) | (green << 8) | red) >>> 0;
  if (layer === "why") {
    const steps = COVERAGE_REASONS.map((one) => REASON_STEPS[one]);
    const colours = steps.map(({ colour }) => packed(colour));
    const { reason } = painted.cells;
    for (let cell = 0; cell < reason.length; cell++) {
      const step = reason[cell]!;
      const isOn = steps[step]!.hatch === undefined || isHatched(steps[step]!.hatch, cell % side, (cell / side) | 0);
      pixels[cell] = isOn ? colours[step]! : 0;
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
