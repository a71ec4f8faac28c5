import { lazy } from "react";
import type { StageManifest } from "../../views/manifest";

export const monitoring = {
  id: "monitoring",
  label: "Monitoring",
  key: "w",
  list: "links",
  views: {
    network: "Network",
    timeline: "Timeline",
    alarms: "Alarms",
    learned: "Learned",
    run: "Channel run",
    sources: "Where it comes from",
  },
  formerly: ["watch"],
  Shown: lazy(async () => ({ default: (await import("./MonitoringStage")).MonitoringStage })),
} as const satisfies StageManifest;
