import type { Bound } from "#core/link";
import type { WatchState } from "#core/watch";
import type { PathState } from "#core/link";
import { figure, StateStroke } from ".";

/** How what is delivered is drawn: by line and glyph first. */
export const WATCH_WORDS: Record<WatchState, { line: PathState; glyph: string; word: string }> = {
  asPromised: { line: "clear", glyph: "✓", word: "as promised" },
  below: { line: "tight", glyph: "▽", word: "below promise" },
  silent: { line: "blocked", glyph: "✕", word: "silent" },
  unknown: { line: "unknown", glyph: "○", word: "not watched" },
};

export function WatchMark({ state }: { state: WatchState }) {
  const { line, glyph, word } = WATCH_WORDS[state];
  return (
    <span className="inline-flex items-center gap-1.5 text-xs whitespace-nowrap">
      <StateStroke state={line} title={word} />
      <span aria-hidden="true">{glyph}</span> {word}
    </span>
  );
}

/** A share of time in per cent as people plan with it; a bound carries its mark. */
export function shareOfTime(percent: number | null, bound: Bound = null): string {
  if (percent === null) return "–";
  // What is short of all of the time is never told as all of it.
  if (percent < 100 && percent >= ALMOST_ALL) return bound === null || bound === "atLeast" ? "> 99.999" : "≤ 100";
  const text = percent === 100 ? "100" : figure(percent, percent >= 99 ? 3 : 1);
  return bound === "atMost" ? `≤ ${text}` : bound === "atLeast" ? `≥ ${text}` : text;
}

/** From here on three decimals would round to all of it. */
const ALMOST_ALL = 99.9995;

/** Odds are never told as certain. */
export function oddsText(odds: number): string {
  if (odds > 0.99) return "over 99 %";
  return odds < 0.01 ? "under 1 %" : `${Math.round(odds * 100)} %`;
}
