import { lazy } from "react";
import type { StageManifest } from "../../views/manifest";

export const channels = {
  id: "channels",
  label: "Channels",
  key: "c",
  list: "sectors",
  views: {
    comb: "Comb",
    hurts: "Who hurts whom",
    plan: "Plan channels",
    widths: "Widths",
    beams: "Receive beams",
  },

  Shown: lazy(async () => ({ default: (await import("./ChannelsStage")).ChannelsStage })),
} as const satisfies StageManifest;
