import { STATE_LINES } from "../ui";
import type { HeatMark } from "./types";

/** How good a path from a place would be, from best to worst. */
export const HEAT_GRADES = ["whole", "clear", "tight", "cut", "deep"] as const;
type HeatGrade = (typeof HEAT_GRADES)[number];

export const HEAT_WORDS: Record<HeatGrade, string> = {
  whole: "whole zone clear",
  clear: "clear enough",
  tight: "zone intruded",
  cut: "line just cut",
  deep: "far behind ground",
};

/** A line cut by less than one zone's radius is near to being free. */
const JUST_CUT_SHARE = -1;

export function gradeOf({ state, share }: Pick<HeatMark, "state" | "share">): HeatGrade {
  if (state === "clear") return share !== null && share >= 1 ? "whole" : "clear";
  if (state === "tight") return "tight";
  return share !== null && share >= JUST_CUT_SHARE ? "cut" : "deep";
}

/** The mark of a grade as SVG: fuller is better, so that it reads without its colour. `resolve` turns variables into colours. */
export function heatMarkSvg(grade: HeatGrade, resolve: (colour: string) => string): string {
  const clear = resolve(STATE_LINES.clear.colour);
  const tight = resolve(STATE_LINES.tight.colour);
  const blocked = resolve(STATE_LINES.blocked.colour);
  const panel = resolve("var(--panel)");
  switch (grade) {
    case "whole":
      return `<circle r="5" fill="${clear}"/>`;
    case "clear":
      return `<circle r="4.2" fill="${panel}" stroke="${clear}" stroke-width="2"/><circle r="2" fill="${clear}"/>`;
    case "tight":
      return `<circle r="4.4" fill="${panel}" stroke="${tight}" stroke-width="1.4"/><path d="M0 -4.4A4.4 4.4 0 0 1 0 4.4Z" fill="${tight}"/>`;
    case "cut":
      return `<circle r="3.6" fill="none" stroke="${blocked}" stroke-width="1.4" stroke-dasharray="1.5 1.8"/>`;
    case "deep":
      return `<circle r="1.2" fill="${blocked}"/>`;
  }
}
