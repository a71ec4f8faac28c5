/** The stages of the work, in its order. A check names the one in whose work its fault is mended. */
export const STAGE_IDS = [
  "survey",
  "paths",
  "sectors",
  "channels",
  "capacity",
  "kit",
  "staging",
  "install",
  "acceptance",
  "monitoring",
] as const;
export type StageId = (typeof STAGE_IDS)[number];

/** How many open findings each stage has. */
export function countsByStage(findings: readonly { stage: StageId }[]): Record<StageId, number> {
  const counts = Object.fromEntries(STAGE_IDS.map((stage) => [stage, 0])) as Record<StageId, number>;
  for (const { stage } of findings) counts[stage]++;
  return counts;
}
