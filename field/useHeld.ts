import type { Held } from "#core/aiming";
import { useCallback, useEffect, useRef, useState } from "react";

/** How the phone is held by its magnetic compass, and by how much it says it may err. */
export interface HeldNow extends Held {
  errorDeg: number | null;
}

type OrientationEvent = DeviceOrientationEvent & { webkitCompassHeading?: number; webkitCompassAccuracy?: number };

function heldBy(event: OrientationEvent): HeldNow | null {
  const { alpha, beta, gamma, absolute, webkitCompassHeading, webkitCompassAccuracy } = event;
  const alphaDeg = webkitCompassHeading === undefined ? (absolute ? alpha : null) : 360 - webkitCompassHeading;
  if (alphaDeg === null || beta === null || gamma === null) return null;
  return { alphaDeg, betaDeg: beta, gammaDeg: gamma, errorDeg: webkitCompassAccuracy ?? null };
}

/** How long a phone may take for its first word, ms. */
const LONGEST_MS = 3000;
const EVENTS = ["deviceorientationabsolute", "deviceorientation"] as const;

/** Where the phone points, once `begin` was pressed and the phone lets it be read; "none" where it does not tell. */
export function useHeld(): { held: HeldNow | "asking" | "none" | null; begin: () => Promise<void> } {
  const [held, setHeld] = useState<HeldNow | "asking" | "none" | null>(null);
  const end = useRef<() => void>(() => undefined);
  const begin = useCallback(async () => {
    setHeld("asking");
    const asks = (globalThis.DeviceOrientationEvent ?? {}) as { requestPermission?: () => Promise<string> };
    if (asks.requestPermission && (await asks.requestPermission().catch(() => "denied")) !== "granted")
      return setHeld("none");
    const timer = setTimeout(() => setHeld((now) => (now === "asking" ? "none" : now)), LONGEST_MS);
    const listen = (event: Event) => {
      const found = heldBy(event as OrientationEvent);
      if (!found) return;
      clearTimeout(timer);
      setHeld(found);
    };
    for (const name of EVENTS) addEventListener(name, listen);
    end.current = () => {
      clearTimeout(timer);
      for (const name of EVENTS) removeEventListener(name, listen);
    };
  }, []);
  useEffect(() => () => end.current(), []);
  return { held, begin };
}
