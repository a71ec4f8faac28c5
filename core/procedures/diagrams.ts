import type { Diagram } from "../plan";
import { figure } from "../words";

/** One stroke, circle or word of a drawing, in units of its own width and height. */
export type Mark =
  | { kind: "line"; from: readonly [x: number, y: number]; to: readonly [x: number, y: number]; weight: number }
  | { kind: "circle"; at: readonly [x: number, y: number]; radius: number; isFilled: boolean }
  | { kind: "path"; points: readonly (readonly [x: number, y: number])[]; look: "faint" | "contour" | "own" }
  | { kind: "text"; at: readonly [x: number, y: number]; text: string };

/** A line drawing, and in words what it shows. */
export interface Drawing {
  width: number;
  height: number;
  marks: Mark[];
  says: string;
}

/** What a drawing is worked out from at one end. */
interface DrawnEnd {
  polarization: string;
  tiltDownDeg: number;
  /** How far the bracket reaches. */
  bracketDownDeg: number;
  bracketUpDeg: number;
  /** Chains of the radio, each on a socket of its own. */
  chains: number;
}

const WIDTH = 200;
const HEIGHT = 90;
const [MID_X, MID_Y] = [WIDTH / 2, HEIGHT / 2];

const line = (from: readonly [number, number], to: readonly [number, number], weight = 1.5): Mark => ({
  ...{ kind: "line" as const, from, to, weight },
});
const ring = (at: readonly [number, number], radius: number, isFilled = false): Mark => ({
  ...{ kind: "circle" as const, at, radius, isFilled },
});
const word = (x: number, y: number, text: string): Mark => ({ kind: "text", at: [x, y], text });

/** A point about a middle, its angle clockwise from straight up. */
const around = (x: number, y: number, radius: number, deg: number): [number, number] => [
  x + radius * Math.sin((deg * Math.PI) / 180),
  y - radius * Math.cos((deg * Math.PI) / 180),
];

/** Angle from upright of each bar that a polarization sets. */
const BARS: Readonly<Record<string, readonly number[]>> = { V: [0], H: [90], HV: [0, 90], X45: [45, -45] };
const BAR_WORDS: Readonly<Record<string, string>> = {
  V: "the bar stands upright",
  H: "the bar lies level",
  HV: "one bar upright, one level",
  X45: "the bars cross at 45°",
};

/** The plate at the back as one sees it from behind the antenna. */
function polarizationPlate({ polarization }: DrawnEnd): Drawing {
  const bars = BARS[polarization] ?? [];
  const marks = [
    ring([MID_X, MID_Y], 34),
    ...bars.map((deg) => line(around(MID_X, MID_Y, 28, deg), around(MID_X, MID_Y, 28, deg + 180), 5)),
    line([MID_X, 2], [MID_X, 9], 1),
    word(MID_X + 46, 14, "up"),
  ];
  return drawn(marks, `Seen from behind: ${BAR_WORDS[polarization] ?? polarization}, the same at the far end.`);
}

/** Sockets of radio and antenna, each to the one that bears its number: the odd ones stand at the left. */
function portMap({ chains }: DrawnEnd): Drawing {
  const xs = Array.from({ length: chains }, (_, i) => MID_X + (i - (chains - 1) / 2) * 36);
  const marks = xs.flatMap((x, i): Mark[] => [
    ring([x, 16], 7),
    ring([x, HEIGHT - 22], 7),
    line([x, 23], [x, HEIGHT - 29]),
    word(x, HEIGHT - 3, String(i + 1)),
  ]);
  return drawn(
    [...marks, word(22, 19, "antenna"), word(22, HEIGHT - 19, "radio")],
    `Socket to socket by number, ${chains === 1 ? "one" : `1 to ${chains}`}; odd ones left, even ones right; none crossed, none left open.`,
  );
}

/** Three layers about a joint, each well past the one before. */
function jointWrap(): Drawing {
  const layers = [
    { name: "tape", half: 30, y: 16 },
    { name: "butyl", half: 44, y: 22 },
    { name: "tape", half: 58, y: 28 },
  ];
  const marks = layers.flatMap(({ half, y }): Mark[] =>
    [-1, 1].map((side) => line([MID_X - half, MID_Y + side * y], [MID_X + half, MID_Y + side * y], 3)),
  );
  return drawn(
    [
      line([8, MID_Y], [WIDTH - 8, MID_Y], 4),
      line([MID_X, MID_Y - 9], [MID_X, MID_Y + 9], 12),
      ...marks,
      word(24, 14, "3 tape"),
      word(24, 26, "2 butyl"),
      word(24, 38, "1 tape"),
    ],
    "Tape, butyl, tape: each half-overlapped, from below upward, and two or three centimetres past the one before.",
  );
}

/** Bolts in the order in which they are tightened. */
function crissCross(): Drawing {
  const bolts = [-45, 135, 45, 225].map((deg) => around(MID_X, MID_Y, 30, deg));
  return drawn(
    [
      ...bolts.flatMap((at, i): Mark[] => [ring(at, 9), word(at[0], at[1] + 4, String(i + 1))]),
      line(bolts[0]!, bolts[1]!, 0.5),
      line(bolts[2]!, bolts[3]!, 0.5),
    ],
    "Each bolt after the one across from it, in two rounds: half the torque, then all of it.",
  );
}

/** The bracket's scale from above, its reach and where it is to stand. */
function scale({ tiltDownDeg, bracketDownDeg, bracketUpDeg }: DrawnEnd): Drawing {
  const most = Math.max(5, bracketDownDeg, bracketUpDeg, Math.abs(tiltDownDeg));
  const xOf = (deg: number) => MID_X + (deg / most) * (WIDTH / 2 - 22);
  const tick = (deg: number, height: number): Mark => line([xOf(deg), MID_Y - height], [xOf(deg), MID_Y + height], 1);
  const way = tiltDownDeg >= 0 ? "down" : "up";
  return drawn(
    [
      line([xOf(-bracketUpDeg), MID_Y], [xOf(bracketDownDeg), MID_Y], 2),
      ...[-bracketUpDeg, 0, bracketDownDeg].map((deg) => tick(deg, 8)),
      ring([xOf(tiltDownDeg), MID_Y], 5, true),
      word(xOf(tiltDownDeg), MID_Y - 16, `${figure(Math.abs(tiltDownDeg))}° ${way}`),
      word(xOf(-bracketUpDeg), MID_Y + 24, `up ${figure(bracketUpDeg, 0)}°`),
      word(xOf(bracketDownDeg), MID_Y + 24, `down ${figure(bracketDownDeg, 0)}°`),
    ],
    `On the scale ${figure(Math.abs(tiltDownDeg))}° ${way}; the bracket reaches ${figure(bracketUpDeg, 0)}° up and ${figure(bracketDownDeg, 0)}° down.`,
  );
}

const drawn = (marks: Mark[], says: string): Drawing => ({ width: WIDTH, height: HEIGHT, marks, says });

const DRAWN: Readonly<Record<Diagram, (end: DrawnEnd) => Drawing>> = {
  polarization: polarizationPlate,
  ports: portMap,
  joint: jointWrap,
  crissCross,
  scale,
};

/** The drawing of a step for one end. */
export const drawingOf = (diagram: Diagram, end: DrawnEnd): Drawing => DRAWN[diagram](end);

/** What each drawing is called where one chooses it. */
export const DIAGRAM_WORDS: Readonly<Record<Diagram, string>> = {
  polarization: "polarization plate",
  ports: "port map",
  joint: "wrapped joint",
  crissCross: "criss-cross order",
  scale: "tilt scale",
};

/** An end to draw from where no end is meant: a usual one. */
export const EXAMPLE_END: DrawnEnd = {
  polarization: "HV",
  tiltDownDeg: 4,
  bracketDownDeg: 15,
  bracketUpDeg: 15,
  chains: 2,
};
