import { lazy } from "react";
import type { StageManifest } from "../../views/manifest";

export const capacity = {
  id: "capacity",
  label: "Capacity",
  key: "a",
  list: "sectors",
  views: {
    sectors: "Sectors’ time",
    backhaul: "Backhaul",
  },

  Shown: lazy(async () => ({ default: (await import("./CapacityStage")).CapacityStage })),
} as const satisfies StageManifest;
