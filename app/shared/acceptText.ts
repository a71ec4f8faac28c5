import type { CrewEnd } from "#core/install";
import { figure } from "#core/words";

/** "−57.0 to −49.0", weaker first, with what ends the band where that is not the plan's tolerance. */
export function acceptText({ fromDbm, toDbm, endsAtOverload }: CrewEnd["accept"]): string {
  return `${figure(fromDbm)} to ${figure(toDbm)}${endsAtOverload ? " (more overloads the receiver)" : ""}`;
}
