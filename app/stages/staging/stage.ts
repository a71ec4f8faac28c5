import { lazy } from "react";
import type { StageManifest } from "../../views/manifest";

export const staging = {
  id: "staging",
  label: "Staging",
  key: "t",
  list: "links",
  views: {
    devices: "Devices",
    checklist: "Checklist",
    configuration: "Configuration",
  },
  formerly: ["bench"],
  Shown: lazy(async () => ({ default: (await import("./StagingStage")).StagingStage })),
} as const satisfies StageManifest;
