/** The steps of one device on the bench, in their order. */
export const STAGING_STEPS = [
  "label",
  "alone",
  "reach",
  "firmware",
  "password",
  "settings",
  "back",
  "pair",
  "power",
  "compare",
  "pack",
] as const;
export type StagingStep = (typeof STAGING_STEPS)[number];

/** What only a person can do; the rest a bench that is connected does by itself. */
export const BY_HAND: ReadonlySet<StagingStep> = new Set(["label", "pack"]);

/** What was noted of one device: who did what when, and what the device said of itself. */
export interface StagingNote {
  radioId: string;
  /** The run of the practice bench that it comes from; null for a real device. */
  practiceRun: string | null;
  serial: string;
  /** Steps that are done. */
  done: Partial<Record<StagingStep, StagingTick>>;
  /** What went wrong last; empty for nothing. */
  problem: string;
  /** Settings that the device reported last. */
  found: Readonly<Record<string, string | number | null>> | null;
  /** The version that it reported last. */
  foundFirmware: string;
}
export interface StagingTick {
  /** ISO time. */
  at: string;
  who: string;
  note: string;
}

/** How far a device has come: steps done of all, whether the bench's part is done, and whether it stands packed. */
export function progressOf(note: Pick<StagingNote, "done"> | undefined): {
  done: number;
  isStaged: boolean;
  isPacked: boolean;
} {
  const done = note?.done ?? {};
  return {
    done: STAGING_STEPS.filter((step) => done[step]).length,
    isStaged: STAGING_STEPS.every((step) => BY_HAND.has(step) || done[step]),
    isPacked: STAGING_STEPS.every((step) => done[step]),
  };
}
