import { useMemo } from "react";
import { useRouteLoaderData } from "react-router";
import { DEFAULT_PREFERENCES, type Preferences } from "../shared/preferences";
import { formatsFor, type Formats } from "./format";

export function usePreferences(): Preferences {
  return useRouteLoaderData<{ preferences: Preferences }>("root")?.preferences ?? DEFAULT_PREFERENCES;
}

/** Lengths and places as the user reads them. */
export function useFormats(): Formats {
  const { units, coordinates } = usePreferences();
  return useMemo(() => formatsFor({ units, coordinates }), [units, coordinates]);
}
