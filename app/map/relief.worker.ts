/// <reference lib="webworker" />
import { contours } from "d3-contour";
import { BEYOND_TERRAIN, RELIEF_SAMPLES } from "#wire";
import type { ReliefAnswer, ReliefRequest } from "./reliefTile";

const SIDE = RELIEF_SAMPLES;
const PIXELS = SIDE - 2;

type Rgb = [number, number, number];
interface Palette {
  low: Rgb;
  high: Rgb;
  water: Rgb;
  wood: Rgb;
  windbreak: Rgb;
  building: Rgb;
  hole: Rgb;
  contour: string;
  label: string;
  halo: string;
}
const LIGHT: Palette = {
  low: [240, 234, 220],
  high: [214, 202, 182],
  water: [206, 220, 226],
  wood: [205, 213, 186],
  windbreak: [190, 201, 166],
  building: [214, 190, 172],
  hole: [122, 46, 93],
  contour: "rgba(112,92,66,",
  label: "#6b5b44",
  halo: "#f6f2ea",
};
const DARK: Palette = {
  low: [38, 44, 46],
  high: [74, 70, 64],
  water: [22, 36, 46],
  wood: [44, 56, 46],
  windbreak: [54, 68, 52],
  building: [82, 66, 58],
  hole: [212, 135, 180],
  contour: "rgba(208,190,160,",
  label: "#c7b694",
  halo: "#14191d",
};

const HATCH_PX = 8;

/** Light from the north-west, 45° up, as relief has long been drawn. */
const SUN = [-0.5, -0.5, Math.SQRT1_2] as const;

/** Shades a tile from its heights. Exaggeration keeps gentle ground readable. */
function paint({ buffer, dark, pixelM }: ReliefRequest): ImageData {
  const heights = new Float32Array(buffer, 0, SIDE * SIDE);
  const cover = new Uint8Array(buffer, SIDE * SIDE * 4, SIDE * SIDE);
  const palette = dark ? DARK : LIGHT;
  const image = new ImageData(PIXELS, PIXELS);
  const exaggeration = 1.6;
  for (let y = 0; y < PIXELS; y++) {
    for (let x = 0; x < PIXELS; x++) {
      const at = (y + 1) * SIDE + x + 1;
      const height = heights[at]!;
      const out = (y * PIXELS + x) * 4;
      if (height !== height) {
        // A hole is hatched: it must not be taken for open sea.
        if ((x + y) % HATCH_PX === 0 && cover[at] !== BEYOND_TERRAIN) {
          image.data.set([...palette.hole, 160], out);
        }
        continue;
      }
      const code = cover[at]!;
      let colour =
        code === 1
          ? palette.water
          : code === 2 || code === 5
            ? palette.wood
            : code === 3
              ? palette.windbreak
              : code === 4
                ? palette.building
                : null;
      if (!colour) {
        const t = Math.min(1, Math.max(0, height / 600));
        colour = [0, 1, 2].map((i) => palette.low[i]! + (palette.high[i]! - palette.low[i]!) * t) as Rgb;
      }
      let light = 1;
      if (code !== 1) {
        const east = ((heights[at + 1]! - heights[at - 1]!) / (2 * pixelM)) * exaggeration;
        const south = ((heights[at + SIDE]! - heights[at - SIDE]!) / (2 * pixelM)) * exaggeration;
        const length = Math.sqrt(east * east + south * south + 1);
        const shade = (-east * SUN[0] - south * SUN[1] + SUN[2]) / length;
        light = shade === shade ? 0.62 + 0.54 * Math.max(0, shade) : 1;
      }
      image.data[out] = colour[0] * light;
      image.data[out + 1] = colour[1] * light;
      image.data[out + 2] = colour[2] * light;
      image.data[out + 3] = 255;
    }
  }
  return image;
}

/** Draws contour lines, each fifth one stronger and with its height where the line is long enough to carry it. */
function drawContours(
  context: OffscreenCanvasRenderingContext2D,
  { buffer, dark, contourIntervalM }: ReliefRequest,
): void {
  const heights = new Float32Array(buffer, 0, SIDE * SIDE);
  const palette = dark ? DARK : LIGHT;
  let lowest = Infinity;
  let highest = -Infinity;
  for (const height of heights) {
    if (height < lowest) lowest = height;
    if (height > highest) highest = height;
  }
  const levels: number[] = [];
  for (
    let level = Math.ceil(Math.max(lowest, 0.5) / contourIntervalM) * contourIntervalM;
    level <= highest;
    level += contourIntervalM
  )
    levels.push(level);
  if (levels.length === 0 || levels.length > 200) return;
  const values = Array.from(heights, (height) => (height === height ? height : -9999));
  context.font = "10px sans-serif";
  context.textAlign = "center";
  context.textBaseline = "middle";
  for (const { value, coordinates } of contours().size([SIDE, SIDE]).thresholds(levels)(values)) {
    const strong = Math.round(value / contourIntervalM) % (contourIntervalM === 50 ? 4 : 5) === 0;
    context.strokeStyle = `${palette.contour}${strong ? 0.62 : 0.34})`;
    context.lineWidth = strong ? 1 : 0.7;
    for (const polygon of coordinates) {
      for (const ring of polygon) {
        context.beginPath();
        ring.forEach(([x, y], i) => {
          // The frame of the tile closes every ring; it is no contour.
          const onFrame = x! <= 0.5 || y! <= 0.5 || x! >= SIDE - 0.5 || y! >= SIDE - 0.5;
          if (i === 0 || onFrame) context.moveTo(x! - 1.5, y! - 1.5);
          else context.lineTo(x! - 1.5, y! - 1.5);
        });
        context.stroke();
        if (strong && ring.length > 140) {
          const inside = ring.filter(([x, y]) => x! > 24 && y! > 16 && x! < SIDE - 24 && y! < SIDE - 16);
          const middle = inside[Math.floor(inside.length / 2)];
          if (middle) {
            context.lineWidth = 3;
            context.strokeStyle = palette.halo;
            context.strokeText(String(value), middle[0]! - 1.5, middle[1]! - 1.5);
            context.fillStyle = palette.label;
            context.fillText(String(value), middle[0]! - 1.5, middle[1]! - 1.5);
            context.strokeStyle = `${palette.contour}0.5)`;
            context.lineWidth = 1;
          }
        }
      }
    }
  }
}

self.onmessage = ({ data }: MessageEvent<ReliefRequest>) => {
  const canvas = new OffscreenCanvas(PIXELS, PIXELS);
  const context = canvas.getContext("2d")!;
  context.putImageData(paint(data), 0, 0);
  drawContours(context, data);
  const image = canvas.transferToImageBitmap();
  self.postMessage({ id: data.id, image } satisfies ReliefAnswer, { transfer: [image] });
};
