import { lazy } from "react";
import type { StageManifest } from "../../views/manifest";

export const acceptance = {
  id: "acceptance",
  label: "Acceptance",
  key: "o",
  list: "links",
  views: {},
  formerly: ["proof"],
  Shown: lazy(async () => ({ default: (await import("./AcceptanceStage")).AcceptanceStage })),
} as const satisfies StageManifest;
