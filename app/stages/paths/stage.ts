import { PlanAndSectionLater } from "../../planView/later";
import type { StageManifest } from "../../views/manifest";

export const paths = {
  id: "paths",
  label: "Paths",
  key: "p",
  list: "links",
  views: {},

  Shown: PlanAndSectionLater,
} as const satisfies StageManifest;
