import { backup } from "./backup";
import { archive, takingArchive } from "./archive";
import { channels } from "./channels";
import { optimize } from "./optimize";
import { search } from "./search";
import { sites } from "./sites";
import { staging } from "./staging";
import { terrain } from "./terrain";
import { channelRun, watch } from "./watch";

/** Every kind of long work. */
export const KINDS = {
  terrain,
  archive,
  takingArchive,
  backup,
  search,
  optimize,
  sites,
  channels,
  staging,
  watch,
  channelRun,
};
export type KindName = keyof typeof KINDS;
/** What each is ordered with. */
export type Orders = { [K in KindName]: Parameters<(typeof KINDS)[K]["work"]>[1]["order"] };
