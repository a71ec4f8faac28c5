import type { LinkAnswer } from "../link";
import type { Link, Measurement, World } from "../plan";
import { inOnePiece } from "../words";
import { CHECKS, weightOf } from "./checks";
import { linkCase, pathCase } from "./checks/check";
import type { Fault } from "./finding";

/** Ids of the checks that find something wrong with an answered link, readings left aside. */
export function checksOf(world: World, link: Link, answer: LinkAnswer): string[] {
  return faultsOf(world, link, answer, null).map(({ check }) => check);
}

/** All that is wrong with one answered link, worst checks first. `measurement` is its newest reading, if any. */
export function faultsOf(world: World, link: Link, answer: LinkAnswer, measurement: Measurement | null): Fault[] {
  const one = linkCase(world, link, answer, measurement);
  const answered = pathCase(one);
  const faults = CHECKS.flatMap(({ id: check, ofLink, ofPath }) =>
    [...(ofLink?.(one) ?? []), ...(answered && ofPath ? ofPath(answered) : [])].map((fault): Fault => ({
      check,
      radioId: fault.radioId,
      what: inOnePiece(fault.what),
      why: inOnePiece(fault.why),
      figure: fault.figure,
      cause: fault.cause,
    })),
  );
  return faults.sort((x, y) => weightOf(x.check) - weightOf(y.check));
}
