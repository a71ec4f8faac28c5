import { leastLossByCosine, peakGainDbi, type AntennaModel, type Polarization } from "../antenna";
import { wallDb } from "../link";
import { endOf, type LinkEnd, type World } from "../plan";
import { returnFrequencyMHz } from "../radio";
import { aimOf, type Aim } from "./aims";
import { talksWith } from "./talks";

/** One transmitter that is on the air. */
export interface Sender {
  end: LinkEnd;
  aim: Aim;
  /** Where it stands and looks, close at hand: whoever listens asks for all of them. */
  latDeg: number;
  lonDeg: number;
  headingDeg: number;
  /** The access point or near bridge end under which it talks. */
  group: string;
  /** Number of those who take turns with it: the customers of one sector never send at once. */
  turn: number;
  /** Whether it is an access point or the near end of a bridge: those of one timing group send at the same times. */
  isNear: boolean;
}

/** Transmitters that differ in nothing but where they stand and look. */
export interface SenderClass {
  frequencyMHz: number;
  widthMHz: number;
  /** Power in the direction of the beam, dBm: cable and walls off, the antenna's gain on. */
  beamDbm: number;
  /** From south to north. */
  senders: Sender[];
  /** Of each sender, close together for whoever looks at thousands: its place, where it looks, and its turn. */
  latDeg: Float64Array;
  lonDeg: Float64Array;
  eastward: Float64Array;
  northward: Float64Array;
  turns: Int32Array;
}

/** A class of some senders. */
export function classOf({ frequencyMHz, widthMHz, beamDbm }: Beam, some: readonly Sender[]): SenderClass {
  const senders = [...some].sort((x, y) => x.latDeg - y.latDeg);
  const each = (value: (sender: Sender) => number) => Float64Array.from(senders, value);
  return {
    ...{ frequencyMHz, widthMHz, beamDbm, senders },
    latDeg: each(({ latDeg }) => latDeg),
    lonDeg: each(({ lonDeg }) => lonDeg),
    eastward: each(({ headingDeg }) => Math.sin((headingDeg * Math.PI) / 180)),
    northward: each(({ headingDeg }) => Math.cos((headingDeg * Math.PI) / 180)),
    turns: Int32Array.from(senders, ({ turn }) => turn),
  };
}

/** All that is on a plan's air. */
export interface Air {
  classes: readonly SenderClass[];
  turns: number;
  /** The greatest share of a beam's power that an antenna lets through by the cosine of the angle off its peak. */
  mostShareOf: (antenna: AntennaModel, polarization: Polarization) => Float64Array;
}

/** The frequency on which a radio sends, MHz: in FDD the far end of a bridge answers on the other one. */
function sendsOnMHz(groups: ReadonlyMap<string, string>, { radio, model }: LinkEnd): number {
  const isFarEnd = model.duplex === "FDD" && groups.get(radio.id) !== radio.id;
  return isFarEnd ? returnFrequencyMHz(model, radio.frequencyMHz) : radio.frequencyMHz;
}

/** What senders of one class share. */
type Beam = Pick<SenderClass, "frequencyMHz" | "widthMHz" | "beamDbm">;

/** One radio on the air, before its turn has a number: its class by name, what that shares, and the radio itself. */
export interface Sounding {
  className: string;
  beam: Beam;
  turnName: string;
  sender: Omit<Sender, "turn">;
}

/** A radio of a plan on the air; null for one without a link, which is silent. */
export function soundingOf(world: World, radioId: string): Sounding | null {
  const groups = talksWith(world);
  const radio = world.radios.get(radioId);
  const group = groups.get(radioId);
  if (!radio || group === undefined || !world.radioModels.has(radio.radioModelId)) return null;
  const end = endOf(world, radio.id);
  const frequencyMHz = sendsOnMHz(groups, end);
  const { widthMHz, txPowerDbm, cableLossDb, polarization, antennaModelId, radioModelId } = radio;
  const shared = [frequencyMHz, widthMHz, txPowerDbm, cableLossDb, polarization, antennaModelId, radioModelId];
  const gainDbi = peakGainDbi(end.antenna, frequencyMHz, polarization);
  const beamDbm = txPowerDbm - cableLossDb - wallDb(end, frequencyMHz / 1000) + gainDbi;
  const aim = aimOf(world, end);
  const { latDeg, lonDeg } = end.place;
  const headingDeg = radio.azimuthDeg ?? aim.bearingDeg;
  return {
    className: [...shared, end.behind].join(" "),
    beam: { frequencyMHz, widthMHz, beamDbm },
    turnName: radio.role === "subscriber" ? group : `${radio.id} alone`,
    sender: { end, aim, latDeg, lonDeg, headingDeg, group, isNear: group === radio.id },
  };
}

/** What is on the air by world, each of which stays what it is. */
const airOfWorlds = new WeakMap<World, Air>();

/** All that is on a plan's air, in classes: whoever listens looks at most of them once. */
export function airOf(world: World): Air {
  const known = airOfWorlds.get(world);
  if (known) return known;
  const classes = new Map<string, { beam: Beam; senders: Sender[] }>();
  const turns = new Map<string, number>();
  for (const id of world.radios.keys()) {
    const sounding = soundingOf(world, id);
    if (!sounding) continue;
    const { className, beam, turnName, sender } = sounding;
    const turn = turns.get(turnName) ?? turns.size;
    turns.set(turnName, turn);
    const own = classes.get(className) ?? { beam, senders: [] };
    classes.set(className, own);
    own.senders.push({ ...sender, turn });
  }
  const shares = new Map<string, Float64Array>();
  const mostShareOf: Air["mostShareOf"] = (antenna, polarization) => {
    const key = `${antenna.id} ${polarization}`;
    const known = shares.get(key);
    if (known) return known;
    const most = leastLossByCosine(antenna, polarization).map((lossDb) => 10 ** (-lossDb / 10));
    shares.set(key, most);
    return most;
  };
  const air = {
    classes: [...classes.values()].map(({ beam, senders }) => classOf(beam, senders)),
    turns: turns.size,
    mostShareOf,
  };
  airOfWorlds.set(world, air);
  return air;
}
