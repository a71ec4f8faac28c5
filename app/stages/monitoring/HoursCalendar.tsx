import type { LinkChart } from "./kept";

const WORDS = ["not asked", "silent", "under half the promised rate", "good"] as const;
const CELL = 7;
const ROW = 6;

/** The hours of each day, one column a day: bad ones stand out by shape as well as by colour. */
export function HoursCalendar({ hours }: Pick<LinkChart, "hours">) {
  const bad = hours.flatMap(({ day, states }) =>
    [...states].flatMap((state, hour) => (state === "1" || state === "2" ? [{ day, hour, state: Number(state) }] : [])),
  );
  const width = hours.length * CELL;
  return (
    <figure>
      <figcaption className="mb-1 text-xs font-semibold">
        Bad hours: {bad.filter(({ state }) => state === 1).length} silent,{" "}
        {bad.filter(({ state }) => state === 2).length} under half the promised rate
      </figcaption>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Calendar of hours">
        <svg
          width={Math.max(width, 10)}
          height={24 * ROW + 14}
          role="img"
          aria-label={`Hours of ${hours.length} days, UTC; the table below names the bad ones`}
        >
          {hours.map(({ day, states }, x) => (
            <g key={day}>
              {[...states].map((state, hour) => {
                const at = { x: x * CELL, y: hour * ROW };
                const title = (
                  <title>{`${day} ${String(hour).padStart(2, "0")}:00 UTC: ${WORDS[Number(state)]}`}</title>
                );
                if (state === "3")
                  return <rect key={hour} {...at} width={CELL - 1} height={ROW - 1} fill="var(--rule)" />;
                if (state === "2")
                  return (
                    <rect key={hour} {...at} width={CELL - 1} height={ROW - 1} fill="var(--tight)">
                      {title}
                    </rect>
                  );
                if (state === "1")
                  return (
                    <path
                      key={hour}
                      d={`M${at.x} ${at.y}l${CELL - 1} ${ROW - 1}m0 ${1 - ROW}l${1 - CELL} ${ROW - 1}`}
                      stroke="var(--blocked)"
                      strokeWidth="1.6"
                    >
                      {title}
                    </path>
                  );
                return null;
              })}
              {day.endsWith("-01") && (
                <text x={x * CELL} y={24 * ROW + 11} fontSize="10" fill="var(--quiet)">
                  {day.slice(0, 7)}
                </text>
              )}
            </g>
          ))}
        </svg>
      </div>
      {bad.length > 0 && (
        <details className="mt-1 text-xs">
          <summary>The bad hours as a list</summary>
          <ul className="columns-2">
            {bad.slice(-200).map(({ day, hour, state }) => (
              <li key={`${day} ${hour}`} className="figures">
                {day} {String(hour).padStart(2, "0")}:00 UTC {WORDS[state]}
              </li>
            ))}
          </ul>
        </details>
      )}
    </figure>
  );
}
