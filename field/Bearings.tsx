import { signedAngleDeg, sunAt } from "#core/geodesy";
import { sketchOf } from "#core/crews";
import type { FieldEnd } from "#wire";
import { figure } from "#core/words";
import { useEffect, useState } from "react";
import { StepDrawing } from "../app/shared/StepDrawing";

/** Lower than this the sun throws no shadow to aim by, degrees. */
const LEAST_HEIGHT_DEG = 3;
const LOOK_MS = 15_000;

const side = (deg: number): string => `${figure(Math.abs(deg), 0)}° ${deg < 0 ? "left" : "right"} of the far end`;

/** The far end's direction by what steel does not bend: the sun of this minute, and other sites of the plan. */
export function Bearings({ here, there, distanceM }: { here: FieldEnd; there: FieldEnd; distanceM: number }) {
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const timer = setInterval(() => setNow(new Date()), LOOK_MS);
    return () => clearInterval(timer);
  }, []);
  const { headingTrueDeg, place } = here.sheet;
  const sun = sunAt(place, now);
  return (
    <details className="mt-2 rounded-lg border-2 border-rule p-2">
      <summary className="flex min-h-12 items-center font-semibold">Without a compass</summary>
      <p>
        {sun.heightDeg < LEAST_HEIGHT_DEG
          ? "The sun is too low now."
          : `The sun stands ${side(signedAngleDeg(sun.azimuthDeg - headingTrueDeg))} now, at ${figure(sun.azimuthDeg, 0)}° true. A plumb line’s shadow points at ${figure((sun.azimuthDeg + 180) % 360, 0)}°.`}
      </p>
      <StepDrawing
        drawing={sketchOf(
          here.sheet.placeName,
          { name: there.sheet.placeName, bearingDeg: headingTrueDeg, distanceM },
          here.landmarks,
        )}
      />
      {here.landmarks.length > 0 && (
        <ul className="mt-1">
          {here.landmarks.map(({ name, bearingDeg, distanceM }) => (
            <li key={name}>
              {name}: {side(signedAngleDeg(bearingDeg - headingTrueDeg))}, {figure(distanceM / 1000)} km
            </li>
          ))}
        </ul>
      )}
      <p className="text-sm text-quiet">
        By the plan’s places and this phone’s clock; whether a site is in sight was not looked at.
      </p>
    </details>
  );
}
