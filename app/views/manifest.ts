import type { ComponentType } from "react";
import type { StageId } from "#core/findings";

/** A stage of the work as its bar, keys, search, list of keys, addresses and tests know it. */
export interface StageManifest {
  id: StageId;
  label: string;
  /** The letter after G. */
  key: string;
  /** What stands in the left column. */
  list: "places" | "sectors" | "links";
  /** Its views by their word in the address, the first shown where it names none; empty where it has one alone. */
  views: Readonly<Record<string, string>>;
  /** Words that stood in addresses for it before; they lead here. */
  formerly?: readonly string[];
  /** Fetched when the stage is first opened. */
  Shown: ComponentType<{ stage: StageManifest }>;
}
