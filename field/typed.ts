const PREFIX = "tejado typed";
/** The place in the phone's storage of what is typed in a box of one end of a job. */
export const typedKey = (planId: string, visitId: string, side: string, box: string): string =>
  [PREFIX, planId, visitId, side, box].join("/");

/** What was typed into a box and not kept yet; null where nothing waits. A phone that refuses its storage forgets at a reload. */
export function readTyped(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

/** Writes what is typed, or forgets it where it is what stands in the box anyway. */
export function writeTyped(key: string, text: string, start: string): void {
  try {
    if (text === start) localStorage.removeItem(key);
    else localStorage.setItem(key, text);
  } catch {
    // A full or closed storage: the text stays on the page, as it would without it.
  }
}

/** Forgets what was half typed for a job that leaves the phone. */
export function dropTyped(planId: string, visitId: string): void {
  const ofJob = [PREFIX, planId, visitId, ""].join("/");
  for (const key of Object.keys(localStorage)) if (key.startsWith(ofJob)) localStorage.removeItem(key);
}
