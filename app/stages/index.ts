import { survey } from "./survey/stage";
import { paths } from "./paths/stage";
import { sectors } from "./sectors/stage";
import { channels } from "./channels/stage";
import { capacity } from "./capacity/stage";
import { kit } from "./kit/stage";
import { staging } from "./staging/stage";
import { install } from "./install/stage";
import { acceptance } from "./acceptance/stage";
import { monitoring } from "./monitoring/stage";
import { STAGE_IDS, type StageId } from "#core/findings";
import type { StageManifest } from "../views/manifest";

const MANIFESTS: Record<StageId, StageManifest> = {
  survey,
  paths,
  sectors,
  channels,
  capacity,
  kit,
  staging,
  install,
  acceptance,
  monitoring,
};
/** The stages in the order of the work. */
export const STAGES: readonly StageManifest[] = STAGE_IDS.map((id) => MANIFESTS[id]);

export const stageOf = (id: StageId): StageManifest => MANIFESTS[id];

/** The stage that a word of an address names, by its name of today or of before; undefined for none. */
export const stageNamed = (word: string | undefined): StageManifest | undefined =>
  STAGES.find(({ id, formerly }) => id === word || (word !== undefined && formerly?.includes(word)));

/** The stage whose letter follows G. */
export const stageByKey = (key: string): StageManifest | undefined => STAGES.find((one) => one.key === key);
