import type { Drawing, Mark } from "../procedures";
import { figure } from "../words";

/** A place as one sees it from another: by its true bearing and how far it is. */
interface Bearing {
  name: string;
  bearingDeg: number;
  distanceM: number;
}

const SIZE = 260;
const MIDDLE = SIZE / 2;
/** The farthest place stands so far from the middle, and the nearest no nearer than the other. */
const [MOST, LEAST] = [96, 24];
const LONGEST_NAME = 16;

/** A point about the middle, its angle clockwise from north. */
const at = (deg: number, radius: number): [number, number] => [
  MIDDLE + radius * Math.sin((deg * Math.PI) / 180),
  MIDDLE - radius * Math.cos((deg * Math.PI) / 180),
];

/** North up: this end in the middle, the far end on a heavy line, other sites of the plan where they stand. Distances are to one scale, but for what lies too near to be drawn apart. */
export function sketchOf(here: string, far: Bearing, landmarks: readonly Bearing[]): Drawing {
  const others = landmarks.filter(({ name }) => name !== far.name);
  const farthest = Math.max(far.distanceM, ...others.map(({ distanceM }) => distanceM));
  const place = ({ bearingDeg, distanceM }: Bearing) => at(bearingDeg, Math.max(LEAST, (MOST * distanceM) / farthest));
  const named = ({ name }: Bearing) => (name.length > LONGEST_NAME ? `${name.slice(0, LONGEST_NAME - 1)}…` : name);
  const below = ([x, y]: [number, number], text: string): Mark => ({
    kind: "text",
    at: [Math.min(SIZE - 40, Math.max(40, x)), y + 14],
    text,
  });
  const end = place(far);
  const marks: Mark[] = [
    { kind: "line", from: [MIDDLE, 26], to: [MIDDLE, 12], weight: 1 },
    { kind: "text", at: [MIDDLE, 10], text: "N" },
    { kind: "line", from: [MIDDLE, MIDDLE], to: end, weight: 2.5 },
    ...others.flatMap((one): Mark[] => [
      { kind: "circle", at: place(one), radius: 2.5, isFilled: false },
      below(place(one), named(one)),
    ]),
    { kind: "circle", at: [MIDDLE, MIDDLE], radius: 4, isFilled: true },
    { kind: "circle", at: end, radius: 4, isFilled: true },
    below(end, named(far)),
  ];
  return {
    ...{ width: SIZE, height: SIZE, marks },
    says: `North is up. ${far.name} lies at ${figure(far.bearingDeg, 0)}° true from ${here}, ${figure(far.distanceM / 1000, 2)} km away${
      others.length > 0
        ? `; ${others.map(({ name, bearingDeg }) => `${name} at ${figure(bearingDeg, 0)}°`).join(", ")}`
        : ""
    }.`,
  };
}
