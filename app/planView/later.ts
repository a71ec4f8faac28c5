import { lazy } from "react";

/** The plan with the ground below it, fetched when it is first shown; one for the stages that share it, so that going between them redraws nothing. */
export const PlanAndSectionLater = lazy(async () => ({ default: (await import("./PlanAndSection")).PlanAndSection }));
