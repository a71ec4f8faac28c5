import { PlanAndSectionLater } from "../../planView/later";
import type { StageManifest } from "../../views/manifest";

export const survey = {
  id: "survey",
  label: "Survey",
  key: "s",
  list: "places",
  views: {},

  Shown: PlanAndSectionLater,
} as const satisfies StageManifest;
