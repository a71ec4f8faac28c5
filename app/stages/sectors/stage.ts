import { lazy } from "react";
import type { StageManifest } from "../../views/manifest";

export const sectors = {
  id: "sectors",
  label: "Sectors",
  key: "e",
  list: "sectors",
  views: {
    rose: "Rose",
    coverage: "Coverage",
    schools: "Ways to serve",
    better: "Improve",
    mast: "Mast",
    build: "Build",
  },

  Shown: lazy(async () => ({ default: (await import("./SectorsStage")).SectorsStage })),
} as const satisfies StageManifest;
