import type { PathState } from "#core/link";
import type { LinkState } from "#core/plan";

/** How a path's state is drawn, on the map, in the section and in lists: by line first, by colour second. */
export const STATE_LINES: Record<PathState, { dash: number[]; colour: string; word: string }> = {
  clear: { dash: [], colour: "var(--clear)", word: "clear" },
  tight: { dash: [11, 5], colour: "var(--tight)", word: "tight" },
  blocked: { dash: [1.5, 4.5], colour: "var(--blocked)", word: "blocked" },
  unknown: { dash: [2, 8], colour: "var(--quiet)", word: "no answer" },
};

/** A short stroke in the pattern of a state. */
export function StateStroke({ state, title }: { state: PathState; title?: string }) {
  const { dash, colour, word } = STATE_LINES[state];
  return (
    <svg width="26" height="10" viewBox="0 0 26 10" role="img" aria-label={title ?? word} className="shrink-0">
      {state === "blocked" ? (
        <g stroke={colour} strokeWidth="2.6" strokeLinecap="round" strokeDasharray="0.1 4">
          <path d="M1 5H9" />
          <path d="M17 5H25" />
        </g>
      ) : (
        <path d="M1 5H25" stroke={colour} strokeWidth="2.6" strokeDasharray={dash.join(" ")} />
      )}
    </svg>
  );
}

export function Mark({ size = 22 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true">
      <g fill="none" stroke="var(--clay)" strokeWidth="1.8" strokeLinecap="round">
        <path d="M2.6 20V9.2a2.9 2.9 0 0 1 5.8 0V20" />
        <path d="M9.1 18V6.8a2.9 2.9 0 0 1 5.8 0V18" />
        <path d="M15.6 20V9.2a2.9 2.9 0 0 1 5.8 0V20" />
      </g>
    </svg>
  );
}

export const MAST_PATH = "M0 -9V7M-5 7L0 -3L5 7M-4 -9A5 5 0 0 1 4 -9";
export const TILE_PATH = "M-4.5 4V-0.5A4.5 4.5 0 0 1 4.5 -0.5V4Z";

export function SiteGlyph() {
  return (
    <svg width="16" height="18" viewBox="-8 -12 16 21" aria-hidden="true" className="shrink-0">
      <path d={MAST_PATH} fill="none" stroke="var(--ink)" strokeWidth="1.8" />
    </svg>
  );
}

export function SubscriberGlyph({ linked }: { linked: boolean }) {
  return (
    <svg width="14" height="14" viewBox="-7 -7 14 14" aria-hidden="true" className="shrink-0">
      <path d={TILE_PATH} fill={linked ? "var(--ink)" : "var(--panel)"} stroke="var(--ink)" strokeWidth="1.6" />
    </svg>
  );
}

export const PROOF_WORDS: Record<LinkState, { glyph: string; word: string; className: string }> = {
  planned: { glyph: "○", word: "planned", className: "text-quiet" },
  proven: { glyph: "✓", word: "proven", className: "text-clear" },
  doubtful: { glyph: "?", word: "doubtful", className: "text-tight" },
  failed: { glyph: "✕", word: "failed", className: "text-blocked" },
};

export function ProofMark({ state }: { state: LinkState }) {
  const { glyph, word, className } = PROOF_WORDS[state];
  return (
    <span className={`text-xs whitespace-nowrap ${className}`}>
      <span aria-hidden="true">{glyph}</span> {word}
    </span>
  );
}
