import { useEffect, useState } from "react";

/** Colours of the theme for a chart, which knows no variables; null until the page is in the browser. */
export function useColours<Name extends string>(names: readonly Name[]): Record<Name, string> | null {
  const [colours, setColours] = useState<Record<Name, string> | null>(null);
  const key = names.join(" ");
  useEffect(() => {
    const style = getComputedStyle(document.documentElement);
    const found = key.split(" ").map((name) => [name, style.getPropertyValue(`--${name}`).trim()]);
    setColours(Object.fromEntries(found) as Record<Name, string>);
  }, [key]);
  return colours;
}
