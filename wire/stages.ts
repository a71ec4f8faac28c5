import type { Finding } from "#core/findings";

export const STAGES = [
  "survey",
  "paths",
  "sectors",
  "channels",
  "capacity",
  "kit",
  "bench",
  "install",
  "proof",
  "watch",
] as const;
export type Stage = (typeof STAGES)[number];

export const STAGE_NAMES: Record<Stage, string> = {
  survey: "Survey",
  paths: "Paths",
  sectors: "Sectors",
  channels: "Channels",
  capacity: "Capacity",
  kit: "Kit",
  bench: "Bench",
  install: "Install",
  proof: "Proof",
  watch: "Watch",
};
/** The letter after G. */
export const STAGE_KEYS: Record<string, Stage> = {
  s: "survey",
  p: "paths",
  e: "sectors",
  c: "channels",
  a: "capacity",
  k: "kit",
  b: "bench",
  i: "install",
  o: "proof",
  w: "watch",
};

export function isStage(text: string | undefined): text is Stage {
  return STAGES.includes(text as Stage);
}

/** How many open findings each stage has. */
export function countsOf(findings: readonly Finding[]): Record<Stage, number> {
  const counts = Object.fromEntries(STAGES.map((stage) => [stage, 0])) as Record<Stage, number>;
  for (const finding of findings) counts[finding.stage]++;
  return counts;
}
