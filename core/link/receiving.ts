import type { LinkEnd } from "../plan";
import { channelCouplingDb } from "../spectrum";
import { chainSplitDb, polarizationLossDb, wallDb } from "./budget";

/** A channel on which something is sent. */
interface SentChannel {
  frequencyMHz: number;
  widthMHz: number;
}

/** What a sender and a receiver take from a signal whatever lies between them, dB: losses above zero, the channels' coupling below. */
interface ReceivedShare {
  /** What of the sender's power falls into the receiver's channel. */
  channelDb: number;
  polarizationDb: number;
  /** From all chains together to one chain of the receiver. */
  splitDb: number;
  cableDb: number;
  wallDb: number;
  /** All of it, as it is added to a level. */
  sumDb: number;
}

/**
 * What of a signal reaches one chain of a receiver within its channel, besides antennas and path: how far the channels overlap, both
 * polarizations, the chains that share it, the receiver's cable and wall. Every interference figure is made with it: tapes, lists,
 * masts, channel plans.
 */
export function receivedShare(from: LinkEnd, to: LinkEnd, sends: SentChannel, listensMHz: number): ReceivedShare {
  const channelDb = channelCouplingDb({
    offsetMHz: sends.frequencyMHz - listensMHz,
    txWidthMHz: sends.widthMHz,
    rxWidthMHz: to.radio.widthMHz,
    rejectionDb: to.model.adjacentRejectionDb,
  });
  const polarizationDb = polarizationLossDb(from, to);
  const splitDb = chainSplitDb(from, to);
  const cableDb = to.radio.cableLossDb;
  const behindDb = wallDb(to, to.radio.frequencyMHz / 1000);
  const sumDb = channelDb - polarizationDb - splitDb - cableDb - behindDb;
  return { channelDb, polarizationDb, splitDb, cableDb, wallDb: behindDb, sumDb };
}

/** Two radios as a shared timing sees them: an access point or near bridge end, or one that talks under it. */
export interface Timed {
  timingGroup?: string | undefined;
  isNear: boolean;
}

/** Whether two radios never disturb each other by their timing: those of one sync group send together, near ends with near ends. */
export const keepOneTime = (x: Timed, y: Timed): boolean =>
  !!x.timingGroup && x.timingGroup === y.timingGroup && x.isNear === y.isNear;
