import { leastLossByCosine, type AntennaModel, type Polarization } from "../antenna";
import { receiveBeamOf } from "../link";
import type { Link, LinkEnd, World } from "../plan";
import { thermalNoiseDbm } from "../propagation";
import { listensOnMHz } from "../radio";
import { channelNoise } from "../spectrum";
import { aimOf, type Aim } from "./aims";
import { airOf, type Air } from "./senders";

/** Who talks with whom: a link of the plan, or one that is only tried. */
export type Talk = Pick<Link, "aRadioId" | "bRadioId">;

/** What everybody in one world listens with; made once for many receivers. */
export interface Listening {
  world: World;
  /** All that is on the air. */
  air: () => Air;
  /** The greatest share of a beam's power that an antenna lets through by the cosine of the angle off its peak. */
  mostShareOf: (antenna: AntennaModel, polarization: Polarization) => Float64Array;
}

/** What everybody in a world listens with; `known` is what is on its air, where that is known. */
export function listeningIn(world: World, known: Air | null = null): Listening {
  const shares = new Map<AntennaModel, Map<Polarization, Float64Array>>();
  let air = known;
  return {
    world,
    air: () => (air ??= airOf(world)),
    mostShareOf: (antenna, polarization) => {
      const own = shares.get(antenna) ?? new Map<Polarization, Float64Array>();
      const most = own.get(polarization) ?? leastLossByCosine(antenna, polarization).map((db) => 10 ** (-db / 10));
      shares.set(antenna, own.set(polarization, most));
      return most;
    },
  };
}

/** A receiver with what all that it may hear is held against. */
export interface Ear {
  link: Talk;
  to: LinkEnd;
  /** Where it looks; worked out when somebody is first asked for by it. */
  aim: () => Aim;
  listensMHz: number;
  /** Weaker than this nobody is looked at, dBm. */
  leastDbm: number;
  mostShareOf: Listening["mostShareOf"];
  /** Whether a scan at its place speaks for its channel. */
  isScanned: boolean;
}

/** In free space weaker than a chain's thermal noise by this, one transmitter adds under 0.14 dB to it and is left out, dB. */
const UNHEARD_DB = 15;

export const thermalDbmAt = ({ radio, model }: LinkEnd): number =>
  thermalNoiseDbm({ bandwidthMHz: radio.widthMHz, noiseFigureDb: model.noiseFigureDb });

/** The frequency on which an end of a link listens, MHz. */
export const listensInMHz = ({ radio, model }: Pick<LinkEnd, "radio" | "model">, link: Talk): number =>
  listensOnMHz(model, radio.frequencyMHz, link.aRadioId === radio.id);

/** An end of a link as it listens. */
export function earOf({ world, mostShareOf }: Listening, link: Talk, to: LinkEnd): Ear {
  let known: Aim | null = null;
  const aim = () => (known ??= aimOf(world, to, to.radio.id === link.aRadioId ? link.bRadioId : link.aRadioId));
  const listensMHz = listensInMHz(to, link);
  const { widthMHz, polarization, azimuthDeg } = to.radio;
  const onItsChannel = () =>
    channelNoise(to.scans, {
      ...{ frequencyMHz: listensMHz, widthMHz, polarization },
      headingDeg: azimuthDeg ?? aim().bearingDeg,
    });
  return {
    link,
    to,
    aim,
    listensMHz,
    isScanned: world.outsiders.size > 0 && onItsChannel() !== null,
    leastDbm: thermalDbmAt(to) - UNHEARD_DB - (receiveBeamOf(to)?.gainDb ?? 0),
    mostShareOf,
  };
}
