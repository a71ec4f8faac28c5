import { address, gateway, network } from "./addresses";
import { airtime } from "./airtime";
import { alarm } from "./alarm";
import { fullFeed, fullHop, ring, unfed } from "./backhaul";
import { blocked } from "./blocked";
import { bracket } from "./bracket";
import type { Check } from "./check";
import { longCable } from "./cable";
import { joint } from "./joint";
import { demand } from "./demand";
import { firmware } from "./firmware";
import { frames } from "./frames";
import { idleBeam } from "./idleBeam";
import { indoorOnly } from "./indoorOnly";
import { margin } from "./margin";
import { mastLoad } from "./mastLoad";
import { misaimed } from "./misaimed";
import { mismatch } from "./mismatch";
import { mounts } from "./mounts";
import { noise } from "./noise";
import { outOfBand } from "./outOfBand";
import { overEirp } from "./overEirp";
import { overload } from "./overload";
import { ownNoise } from "./ownNoise";
import { pole } from "./pole";
import { polarization } from "./polarization";
import { lowVoltage, notFed, smallSource, wrongInjector } from "./power";
import { doubtful, failed } from "./proof";
import { slowCable } from "./slowCable";
import { mainsAtSolar, solar } from "./solar";
import { swing } from "./swing";
import { switchBudget } from "./switchBudget";
import { tight } from "./tight";
import { tooFar } from "./tooFar";
import { tooHigh } from "./tooHigh";
import { trees } from "./trees";
import { unanswered } from "./unanswered";
import { uncovered } from "./uncovered";
import { weak } from "./weak";
import { arrester, indoorCable, jumpers, polarity } from "./wiring";

/** Every check, worst first. */
export const CHECKS: readonly Check[] = [
  unanswered,
  wrongInjector,
  polarity,
  mismatch,
  overload,
  outOfBand,
  tooHigh,
  tooFar,
  blocked,
  weak,
  noise,
  unfed,
  fullHop,
  fullFeed,
  airtime,
  demand,
  overEirp,
  uncovered,
  indoorOnly,
  alarm,
  failed,
  doubtful,
  tight,
  trees,
  margin,
  ownNoise,
  frames,
  polarization,
  solar,
  mainsAtSolar,
  notFed,
  smallSource,
  switchBudget,
  lowVoltage,
  longCable,
  slowCable,
  jumpers,
  indoorCable,
  arrester,
  mounts,
  bracket,
  joint,
  pole,
  swing,
  idleBeam,
  firmware,
  address,
  gateway,
  network,
  mastLoad,
  misaimed,
  ring,
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
