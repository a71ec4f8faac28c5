import type { Profile } from "#core/terrain";
import { createContext, useCallback, useContext, useMemo, useState, type ComponentProps, type ReactNode } from "react";
import { PlanMap } from "../map/PlanMap";
import { Section } from "../section/Section";

/** Distance along the selected path under the cursor, km, and what moves it: shared by plan and section, and by nothing else. */
const CursorReact = createContext<{ km: number | null; setKm: (km: number | null) => void } | null>(null);

/** Holds the cursor for the plan and the section below it: whatever else stands there is not drawn anew as it moves. */
export function CursorProvider({ children }: { children: ReactNode }) {
  const [km, setKm] = useState<number | null>(null);
  const cursor = useMemo(() => ({ km, setKm }), [km]);
  return <CursorReact.Provider value={cursor}>{children}</CursorReact.Provider>;
}

function useCursor() {
  const cursor = useContext(CursorReact);
  if (!cursor) throw new Error("the cursor stands outside its provider");
  return cursor;
}

/** The plan with the cursor's place on the selected path; `profile` is that path's. */
export function PlanUnderCursor({
  profile,
  ...props
}: { profile: Profile | undefined } & Omit<ComponentProps<typeof PlanMap>, "cursor" | "onPathHover">) {
  const { km, setKm } = useCursor();
  const cursor = useMemo(() => {
    if (!profile || km === null) return null;
    const i = Math.round((km * 1000 * (profile.latDeg.length - 1)) / profile.distanceM);
    return i >= 0 && i < profile.latDeg.length ? { latDeg: profile.latDeg[i]!, lonDeg: profile.lonDeg[i]! } : null;
  }, [profile, km]);
  const onPathHover = useCallback(
    (share: number | null) => setKm(share === null || !profile ? null : (share * profile.distanceM) / 1000),
    [profile, setKm],
  );
  return <PlanMap {...props} cursor={cursor} onPathHover={onPathHover} />;
}

/** The section with the cursor on it. */
export function SectionUnderCursor(props: Omit<ComponentProps<typeof Section>, "cursorKm" | "onCursor">) {
  const { km, setKm } = useCursor();
  return <Section {...props} cursorKm={km} onCursor={setKm} />;
}
