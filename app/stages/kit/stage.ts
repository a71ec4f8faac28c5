import { lazy } from "react";
import type { StageManifest } from "../../views/manifest";

export const kit = {
  id: "kit",
  label: "Kit",
  key: "k",
  list: "links",
  views: {
    bill: "Bill",
    store: "Store",
    chains: "Cables and power",
    sun: "Sun and mains",
    loads: "Wind and exposure",
    procedures: "Procedures",
    addresses: "Addresses",
  },

  Shown: lazy(async () => ({ default: (await import("./KitStage")).KitStage })),
} as const satisfies StageManifest;
