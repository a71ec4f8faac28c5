import { beamReachDeg, beamwidthDeg, cutLossDb, WIDTH_DEPTHS_DB, type Cut } from "#core/antenna";
import { figure } from "../ui";

export interface PolarCurve {
  name: string;
  cut: Cut;
  /** Peak of this curve under the plot's outer ring, dB: curves of unequal gain stand at their own levels. */
  underDb: number;
  colour: string;
  dash: string;
}

const RADIUS = 104;
/** The middle of the plot lies so far below its outer ring. */
const DEPTH_DB = 40;
const RINGS_DB = [0, 10, 20, 30];

/** From the outer ring inward. */
const radiusOf = (downDb: number) => RADIUS * (1 - Math.min(DEPTH_DB, downDb) / DEPTH_DB);

/**
 * Cuts of one plane in polar coordinates, dB inward from the outer ring. Azimuth has its peak at the top and turns clockwise;
 * elevation has the horizon at the right and the sky at the top. The widths of the first curve are marked.
 */
export function PolarPlot({
  plane,
  curves,
  title,
}: {
  plane: "azimuth" | "elevation";
  curves: PolarCurve[];
  title: string;
}) {
  const turn = plane === "azimuth" ? (deg: number) => deg - 90 : (deg: number) => -deg;
  const at = (deg: number, radius: number): [number, number] => {
    const angle = (turn(deg) * Math.PI) / 180;
    return [radius * Math.cos(angle), radius * Math.sin(angle)];
  };
  const path = ({ cut, underDb }: PolarCurve) => {
    let d = "";
    // Every degree, and the cut's own angles, so that a narrow lobe keeps its tip.
    const angles = [...new Set([...Array.from({ length: 361 }, (_, i) => i - 180), ...cut.anglesDeg])].sort(
      (x, y) => x - y,
    );
    for (const deg of angles) {
      const [x, y] = at(deg, radiusOf(cutLossDb(cut, deg) + underDb));
      d += `${d ? "L" : "M"}${x.toFixed(2)} ${y.toFixed(2)}`;
    }
    return `${d}Z`;
  };
  const [first] = curves;
  return (
    <figure className="m-0">
      <figcaption className="mb-1 text-[13px] font-semibold">{title}</figcaption>
      <svg
        viewBox="-128 -122 256 244"
        role="img"
        aria-label={`${title}, polar, ${curves.map(({ name }) => name).join(", ")}`}
        className="w-full max-w-80"
      >
        {RINGS_DB.map((down) => (
          <circle key={down} r={radiusOf(down)} fill="none" stroke="var(--rule)" strokeWidth={down === 0 ? 1.2 : 0.8} />
        ))}
        {Array.from({ length: 12 }, (_, i) => {
          const [x, y] = at(i * 30, RADIUS);
          const [lx, ly] = at(i * 30, RADIUS + 11);
          const deg = i * 30 > 180 ? i * 30 - 360 : i * 30;
          return (
            <g key={i}>
              <line x2={x} y2={y} stroke="var(--rule)" strokeWidth="0.6" />
              <text x={lx} y={ly + 3} textAnchor="middle" fontSize="8" fill="var(--quiet)" className="figures">
                {figure(deg, 0)}°
              </text>
            </g>
          );
        })}
        {RINGS_DB.slice(1).map((down) => (
          <text key={down} x={3} y={-radiusOf(down) - 1.5} fontSize="7.5" fill="var(--quiet)" className="figures">
            −{down} dB
          </text>
        ))}
        {first &&
          WIDTH_DEPTHS_DB.map((depth) => {
            if (beamwidthDeg(first.cut, depth) >= 360) return null;
            return ([-1, 1] as const).map((side) => {
              const deg = side * beamReachDeg(first.cut, depth, side);
              const [x1, y1] = at(deg, radiusOf(depth + first.underDb) - 5);
              const [x2, y2] = at(deg, radiusOf(depth + first.underDb) + 5);
              return (
                <line key={`${depth} ${side}`} x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--clay)" strokeWidth="1.8" />
              );
            });
          })}
        {curves.map((curve) => (
          <path
            key={curve.name}
            d={path(curve)}
            fill="none"
            stroke={curve.colour}
            strokeWidth="1.6"
            strokeDasharray={curve.dash}
            strokeLinejoin="round"
          />
        ))}
      </svg>
    </figure>
  );
}
