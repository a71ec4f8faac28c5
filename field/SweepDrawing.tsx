import { lossOf, type SweepFit, type SweepPoint, type SweptAntenna } from "#core/aiming";
import type { CrewEnd } from "#core/install";
import { figure } from "#core/words";

const [WIDTH, HEIGHT, LEFT, FOOT] = [340, 190, 40, 22];

/** Levels against the bracket's scale, the pattern that was found in them, and the band that is accepted. */
export function SweepDrawing({
  swept,
  points,
  fit,
  accept,
  patternWords = "this antenna’s pattern, fitted",
}: {
  swept: SweptAntenna;
  points: readonly SweepPoint[];
  fit: Pick<SweepFit, "peakDeg" | "peakDbm"> | null;
  accept: CrewEnd["accept"];
  /** What the drawn pattern is. */
  patternWords?: string;
}) {
  const angles = [...points.map(({ angleDeg }) => angleDeg), ...(fit ? [fit.peakDeg] : [])];
  const [low, high] = [Math.min(...angles) - 1, Math.max(...angles) + 1];
  const levels = [
    ...points.map(({ levelDbm }) => levelDbm),
    accept.toDbm,
    accept.fromDbm,
    ...(fit ? [fit.peakDbm] : []),
  ];
  const [bottom, top] = [Math.min(...levels) - 2, Math.max(...levels) + 2];
  const x = (deg: number) => LEFT + ((deg - low) / (high - low)) * (WIDTH - LEFT - 4);
  const y = (dbm: number) => 4 + ((top - Math.max(bottom, dbm)) / (top - bottom)) * (HEIGHT - FOOT - 4);
  const loss = lossOf(swept);
  const curve = fit
    ? Array.from({ length: 121 }, (_, i) => low + ((high - low) * i) / 120)
        .map((deg, i) => `${i ? "L" : "M"}${x(deg).toFixed(1)} ${y(fit.peakDbm - loss(deg - fit.peakDeg)).toFixed(1)}`)
        .join("")
    : "";
  const last = points.at(-1)!;
  return (
    <figure className="mt-2">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={saysOf(points, fit)}
        className="w-full rounded-lg border-2 border-rule bg-panel"
      >
        <rect
          x={LEFT}
          width={WIDTH - LEFT - 4}
          y={y(accept.toDbm)}
          height={y(accept.fromDbm) - y(accept.toDbm)}
          className="fill-clear/20"
        />
        <text x={WIDTH - 8} y={y(accept.toDbm) + 11} textAnchor="end" className="fill-clear text-[10px]">
          accepted
        </text>
        <path d={curve} className="fill-none stroke-clay" strokeWidth="1.5" strokeDasharray="5 3" />
        {points.map(({ angleDeg, levelDbm }, i) => (
          <circle key={i} cx={x(angleDeg)} cy={y(levelDbm)} r={3} className="fill-ink" />
        ))}
        <circle cx={x(last.angleDeg)} cy={y(last.levelDbm)} r={7} className="fill-none stroke-ink" strokeWidth="1.5" />
        {[bottom, top].map((dbm) => (
          <text
            key={dbm}
            x={LEFT - 4}
            y={Math.max(12, y(dbm))}
            textAnchor="end"
            className="figures fill-quiet text-[10px]"
          >
            {figure(dbm, 0)}
          </text>
        ))}
        {[low, high].map((deg, i) =>
          // Under the peak stands the peak's own angle.
          fit && Math.abs(x(deg) - x(fit.peakDeg)) < 50 ? null : (
            <text
              key={i}
              x={x(deg)}
              y={HEIGHT - 8}
              textAnchor={i ? "end" : "start"}
              className="figures fill-quiet text-[10px]"
            >
              {figure(deg, 0)}°
            </text>
          ),
        )}
        {fit && (
          <text
            x={x(fit.peakDeg)}
            y={HEIGHT - 8}
            textAnchor="middle"
            className="figures fill-clay text-[10px] font-semibold"
          >
            {figure(fit.peakDeg)}°
          </text>
        )}
      </svg>
      <figcaption className="text-sm text-quiet">
        dBm against the scale; ring: your last level{fit && `; dashes: ${patternWords}`}
      </figcaption>
    </figure>
  );
}

function saysOf(points: readonly SweepPoint[], fit: Pick<SweepFit, "peakDeg" | "peakDbm"> | null): string {
  const logged = `${points.length} levels logged`;
  return fit ? `${logged}; peak at ${figure(fit.peakDeg)} degrees of the scale, ${figure(fit.peakDbm)} dBm` : logged;
}
