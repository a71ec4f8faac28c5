import { raisedByDb } from "../link";
import { endOf, type World } from "../plan";
import { channelCouplingDb } from "../spectrum";
import type { ChannelEar } from "./ears";
import { peopleLost } from "./question";

/** What one group does to another on the channels of now. */
export interface Hurt {
  /** Whose receivers hear it, and who sends, by their access points or near bridge ends. */
  victim: string;
  by: string;
  /** People whose rate is lost, were it alone. */
  peopleLost: number;
  /** Receivers of the victim that it raises by a decibel or more. */
  raised: number;
  /** Its power in the channel of the receiver that it raises most, dBm on a chain, and by how much it raises the noise there. */
  worst: {
    linkId: string;
    /** Who sends: the access point or near end, or one that talks under it. */
    radioId: string;
    direction: "down" | "up";
    sentDbm: number;
    couplingDb: number;
    arrivingDbm: number;
    raisesDb: number;
  };
}

/**
 * Who hurts whom by what ears hear on the channels of now, those first by whom most people lose; pairs that raise nobody's noise by a
 * tenth of a decibel are left out.
 */
export function hurtsOf(world: World, ears: readonly ChannelEar[]): Hurt[] {
  const pairs = new Map<string, Hurt>();
  for (const ear of ears) {
    const { radio: own, model } = endOf(world, ear.group);
    for (const { group, radioId, dbm: arrivingDbm, frequencyMHz, widthMHz } of ear.heard) {
      const couplingDb = channelCouplingDb({
        offsetMHz: frequencyMHz - ear.listensMHz,
        txWidthMHz: widthMHz,
        rxWidthMHz: own.widthMHz,
        rejectionDb: model.adjacentRejectionDb,
      });
      const raisesDb = raisedByDb(arrivingDbm, ear.quietDbm);
      if (raisesDb < LEAST_DB) continue;
      const worst = {
        radioId,
        linkId: ear.linkId,
        direction: ear.direction,
        sentDbm: arrivingDbm - couplingDb,
        couplingDb,
        arrivingDbm,
        raisesDb,
      };
      const key = `${ear.group} ${group}`;
      const known = pairs.get(key) ?? { victim: ear.group, by: group, peopleLost: 0, raised: 0, worst };
      known.peopleLost += peopleLost(ear, arrivingDbm);
      if (raisesDb >= 1) known.raised++;
      if (raisesDb > known.worst.raisesDb) known.worst = worst;
      pairs.set(key, known);
    }
  }
  return [...pairs.values()].sort(worstFirst);
}

const worstFirst = (x: Hurt, y: Hurt) => y.peopleLost - x.peopleLost || y.worst.raisesDb - x.worst.raisesDb;

/** What several found, each among a part of the links, put together. */
export function mergedHurts(parts: readonly (readonly Hurt[])[]): Hurt[] {
  const pairs = new Map<string, Hurt>();
  for (const hurt of parts.flat()) {
    const key = `${hurt.victim} ${hurt.by}`;
    const known = pairs.get(key);
    if (!known) pairs.set(key, { ...hurt });
    else {
      known.peopleLost += hurt.peopleLost;
      known.raised += hurt.raised;
      if (hurt.worst.raisesDb > known.worst.raisesDb) known.worst = hurt.worst;
    }
  }
  return [...pairs.values()].sort(worstFirst);
}
const LEAST_DB = 0.1;
