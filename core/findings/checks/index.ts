import { airtime } from "./airtime";
import { blocked } from "./blocked";
import { bracket } from "./bracket";
import type { Check } from "./check";
import { demand } from "./demand";
import { indoorOnly } from "./indoorOnly";
import { margin } from "./margin";
import { misaimed } from "./misaimed";
import { mismatch } from "./mismatch";
import { mounts } from "./mounts";
import { noise } from "./noise";
import { outOfBand } from "./outOfBand";
import { overEirp } from "./overEirp";
import { overload } from "./overload";
import { ownNoise } from "./ownNoise";
import { polarization } from "./polarization";
import { doubtful, failed } from "./proof";
import { tight } from "./tight";
import { tooFar } from "./tooFar";
import { tooHigh } from "./tooHigh";
import { trees } from "./trees";
import { unanswered } from "./unanswered";
import { uncovered } from "./uncovered";
import { weak } from "./weak";

/** Every check, worst first. */
export const CHECKS: readonly Check[] = [
  unanswered,
  mismatch,
  overload,
  outOfBand,
  tooHigh,
  tooFar,
  blocked,
  weak,
  noise,
  airtime,
  demand,
  overEirp,
  uncovered,
  indoorOnly,
  failed,
  doubtful,
  tight,
  trees,
  margin,
  ownNoise,
  polarization,
  mounts,
  bracket,
  misaimed,
];

const byId = new Map(CHECKS.map((check) => [check.id, check]));
const weight = new Map(CHECKS.map(({ id }, i) => [id, i]));

/** Finds a check by its id. Throws RangeError for an unknown id. */
export function checkOf(id: string): Check {
  const check = byId.get(id);
  if (!check) throw new RangeError(`there is no check "${id}"`);
  return check;
}

/** Where a check stands by weight; the lower, the worse. */
export const weightOf = (id: string): number => weight.get(id) ?? CHECKS.length;
