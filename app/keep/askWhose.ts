import type { ConflictWire } from "./answer";

/** A question that waits for its answer: the conflicts of which mine are to be kept, or null to leave things as they are. */
export interface WhoseQuestion {
  conflicts: ConflictWire[];
  answer: (mine: ConflictWire[] | null) => void;
}

let ask: ((question: WhoseQuestion) => void) | null = null;

/** The dialog that puts the questions; one stands on every page. */
export function answerWhose(put: ((question: WhoseQuestion) => void) | null): void {
  ask = put;
}

/** Asks whose values to take; null when nobody answers. */
export function askWhose(conflicts: ConflictWire[]): Promise<ConflictWire[] | null> {
  return new Promise((resolve) => (ask ? ask({ conflicts, answer: resolve }) : resolve(null)));
}
