import { figure } from "#core/words";

/** Up to four antennas are told apart by dash first and by colour second. */
export const COMPARE_LINES = [
  { colour: "var(--clear)", dash: "" },
  { colour: "var(--blocked)", dash: "6 3" },
  { colour: "var(--tight)", dash: "2 2.5" },
  { colour: "var(--ink)", dash: "9 3 2 3" },
] as const;
export const MOST_COMPARED = COMPARE_LINES.length;

export const bandText = ([low, high]: readonly [number, number]): string => `${figure(low, 0)}–${figure(high, 0)}`;
