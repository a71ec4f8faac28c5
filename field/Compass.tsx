import type { CrewEnd } from "#core/install";
import { signedAngleDeg } from "#core/geodesy";
import { figure } from "#core/words";
import { useState } from "react";
import { Big } from "./parts";

/** What phones say of where they point. */
interface Held {
  headingDeg: number;
  /** Down is positive, as brackets are told. */
  tiltDownDeg: number;
  errorDeg: number | null;
}

type OrientationEvent = DeviceOrientationEvent & { webkitCompassHeading?: number; webkitCompassAccuracy?: number };

function heldBy(event: OrientationEvent): Held | null {
  const { alpha, beta, absolute, webkitCompassHeading, webkitCompassAccuracy } = event;
  const heading = webkitCompassHeading ?? (absolute && alpha !== null ? (360 - alpha) % 360 : null);
  if (heading === null || beta === null) return null;
  return { headingDeg: heading, tiltDownDeg: 90 - beta, errorDeg: webkitCompassAccuracy ?? null };
}

/** The phone as a rough compass and inclinometer, where it has one and lets it be read. It never stands for the sweep. */
export function Compass({ sheet }: { sheet: CrewEnd }) {
  const [held, setHeld] = useState<Held | "asking" | "none" | null>(null);
  const begin = async () => {
    setHeld("asking");
    const asks = (globalThis.DeviceOrientationEvent ?? {}) as { requestPermission?: () => Promise<string> };
    if (asks.requestPermission && (await asks.requestPermission().catch(() => "denied")) !== "granted")
      return setHeld("none");
    const timer = setTimeout(() => setHeld((now) => (now === "asking" ? "none" : now)), 3000);
    const listen = (event: Event) => {
      const found = heldBy(event as OrientationEvent);
      if (!found) return;
      clearTimeout(timer);
      setHeld(found);
    };
    addEventListener("deviceorientationabsolute", listen);
    addEventListener("deviceorientation", listen);
  };
  if (held === null)
    return (
      <Big className="mt-2 w-full" onClick={() => void begin()}>
        Point with this phone
      </Big>
    );
  if (held === "asking") return <p className="mt-2">Asking the phone…</p>;
  if (held === "none") return <p className="mt-2">This phone does not tell where it points: use a compass.</p>;
  const turn = sheet.headingMagneticDeg === null ? null : signedAngleDeg(sheet.headingMagneticDeg - held.headingDeg);
  return (
    <p className="mt-2 rounded-lg border-2 border-rule p-2">
      <span className="figures text-xl font-semibold">{figure(held.headingDeg, 0)}°</span> by this phone, magnetic;{" "}
      {turn !== null && `${figure(Math.abs(turn), 0)}° to the ${turn < 0 ? "left" : "right"}`} · held{" "}
      {figure(Math.abs(held.tiltDownDeg), 0)}° {held.tiltDownDeg >= 0 ? "down" : "up"}
      <span className="block text-sm text-quiet">
        {held.errorDeg === null ? "Phones err by 5 to 15°" : `Its own word: ±${figure(held.errorDeg, 0)}°`}, more beside
        steel. Stand off the mast to read it.
      </span>
    </p>
  );
}
