import type { Patch } from "#core/plan";

/** A draft that was discarded or set aside, kept in this browser until it is restored or deleted. */
export interface AsideDraft {
  at: string;
  why: "discarded" | "set aside";
  patches: Patch[];
}

/** Drafts kept a plan; the oldest go first. */
const MOST_KEPT = 10;

export const draftKey = (planId: string): string => `tejado-patches-${planId}`;
const asideKey = (planId: string): string => `tejado-aside-${planId}`;

/** Reads JSON from storage; null where there is none, or where it cannot be read. */
function readJson<T>(storage: Storage, key: string): T | null {
  try {
    const text = storage.getItem(key);
    return text ? (JSON.parse(text) as T) : null;
  } catch {
    return null;
  }
}

/** The draft of this window as it was last stored. */
export const storedDraft = (planId: string): Patch[] => readJson<Patch[]>(sessionStorage, draftKey(planId)) ?? [];

/** Drafts kept aside, newest first. */
export const asideDrafts = (planId: string): AsideDraft[] =>
  readJson<AsideDraft[]>(localStorage, asideKey(planId)) ?? [];

function writeAside(planId: string, drafts: readonly AsideDraft[]): AsideDraft[] {
  // Where the storage is full the oldest go until the newest fit.
  for (let kept = drafts.slice(0, MOST_KEPT); kept.length > 0; kept = kept.slice(0, -1))
    try {
      localStorage.setItem(asideKey(planId), JSON.stringify(kept));
      return kept;
    } catch {
      continue;
    }
  localStorage.removeItem(asideKey(planId));
  return [];
}

/** Keeps a draft aside; gives the list with it. */
export function putAside(planId: string, patches: readonly Patch[], why: AsideDraft["why"]): AsideDraft[] {
  if (patches.length === 0) return asideDrafts(planId);
  return writeAside(planId, [{ at: new Date().toISOString(), why, patches: [...patches] }, ...asideDrafts(planId)]);
}

/** Takes one draft off the list; gives the rest. */
export const dropAside = (planId: string, at: string): AsideDraft[] =>
  writeAside(
    planId,
    asideDrafts(planId).filter((draft) => draft.at !== at),
  );

/** Sets aside the draft that a window stored, so that the plan opens as saved. */
export function setStoredDraftAside(planId: string): void {
  putAside(planId, storedDraft(planId), "set aside");
  sessionStorage.removeItem(draftKey(planId));
}

/** Edits in a draft: each field that it sets, each row that it adds or removes. */
export const editCount = (patches: readonly Patch[]): number =>
  patches.reduce((sum, { set }) => sum + (set ? Object.keys(set).length : 1), 0);

/** Hands a draft to the person as a file. */
export function downloadDraft(planId: string, patches: readonly Patch[]): void {
  const url = URL.createObjectURL(
    new Blob([JSON.stringify({ format: "tejado-draft", planId, patches }, null, 2)], { type: "application/json" }),
  );
  const link = Object.assign(document.createElement("a"), { href: url, download: `tejado-draft-${planId}.json` });
  link.click();
  URL.revokeObjectURL(url);
}
