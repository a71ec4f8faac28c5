import { lazy } from "react";
import type { StageManifest } from "../../views/manifest";

export const install = {
  id: "install",
  label: "Install",
  key: "i",
  list: "links",
  views: {
    jobs: "Jobs",
    crews: "Crews",
    links: "Links",
  },

  Shown: lazy(async () => ({ default: (await import("./InstallStage")).InstallStage })),
} as const satisfies StageManifest;
