import { peakGainDbi } from "../antenna";
import { wallDb, type HeardRadio } from "../link";
import { endOf, type LinkEnd, type World } from "../plan";
import { sendsOnMHz } from "../radio";
import { finished, type Steps } from "../steps";
import { aimOf, type Aim } from "./aims";
import { outsiderEnd } from "./outsiders";
import { talksOf, type Talks } from "./talks";

/** One transmitter that is on the air. */
export interface Sender {
  /** What whoever hears it tells of it. */
  told: Omit<HeardRadio, "dbm" | "bearingDeg">;
  end: LinkEnd;
  aim: Aim;
  /** Where it stands and looks, close at hand: whoever listens asks for all of them. */
  latDeg: number;
  lonDeg: number;
  headingDeg: number;
  /** The access point or near bridge end under which it talks. */
  group: string;
  /** Those who take turns with it, by name and by number: the customers of one sector never send at once. */
  turnName: string;
  turn: number;
  /** Whether it is an access point or the near end of a bridge: those of one timing group send at the same times. */
  isNear: boolean;
  /** Whether it belongs to somebody else. */
  isOutsider: boolean;
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
    frequencyMHz,
    widthMHz,
    beamDbm,
    senders,
    latDeg: each(({ latDeg }) => latDeg),
    lonDeg: each(({ lonDeg }) => lonDeg),
    eastward: each(({ headingDeg }) => Math.sin((headingDeg * Math.PI) / 180)),
    northward: each(({ headingDeg }) => Math.cos((headingDeg * Math.PI) / 180)),
    turns: Int32Array.from(senders, ({ turn }) => turn),
  };
}

/** All that is on a plan's air. */
export interface Air {
  classes: ReadonlyMap<string, SenderClass>;
  /** Numbers of the turns. */
  turns: ReadonlyMap<string, number>;
  talks: Talks;
}

/** What senders of one class share. */
type Beam = Pick<SenderClass, "frequencyMHz" | "widthMHz" | "beamDbm">;

/** One radio on the air, before its turn has a number: its class by name, what that shares, and the radio itself. */
export interface Sounding {
  className: string;
  beam: Beam;
  sender: Omit<Sender, "turn">;
}

const ALONE = " alone";
/** Whether nobody takes turns with a transmitter. */
export const isAlone = ({ turnName }: Pick<Sender, "turnName">): boolean => turnName.endsWith(ALONE);

/** A radio of a plan on the air; null for one without a link, which is silent. */
export function soundingOf(world: World, talks: Talks, radioId: string): Sounding | null {
  const radio = world.radios.get(radioId);
  const group = talks.groups.get(radioId);
  if (!radio || group === undefined || !world.radioModels.has(radio.radioModelId)) return null;
  return soundingAt(world, talks, endOf(world, radio.id), group, false);
}

/** An end on the air, of the plan's own or of somebody else. */
function soundingAt(world: World, talks: Talks, end: LinkEnd, group: string, isOutsider: boolean): Sounding {
  const { radio } = end;
  const frequencyMHz = sendsOnMHz(end.model, radio.frequencyMHz, group === radio.id);
  const { widthMHz, txPowerDbm, cableLossDb, polarization, antennaModelId, radioModelId } = radio;
  const shared = [frequencyMHz, widthMHz, txPowerDbm, cableLossDb, polarization, antennaModelId, radioModelId];
  const gainDbi = peakGainDbi(end.antenna, frequencyMHz, polarization);
  const beamDbm = txPowerDbm - cableLossDb - wallDb(end, frequencyMHz / 1000) + gainDbi;
  const aim = aimOf(world, end, talks.mates.get(radio.id));
  const { latDeg, lonDeg } = end.place;
  const headingDeg = radio.azimuthDeg ?? aim.bearingDeg;
  return {
    className: [...shared, end.behind].join(" "),
    beam: { frequencyMHz, widthMHz, beamDbm },
    sender: {
      told: {
        radioId: radio.id,
        name: radio.name,
        placeName: isOutsider ? "" : end.placeName,
        group,
        frequencyMHz,
        widthMHz,
      },
      end,
      aim,
      latDeg,
      lonDeg,
      headingDeg,
      group,
      isNear: group === radio.id,
      isOutsider,
      turnName: radio.role === "subscriber" ? group : `${radio.id}${ALONE}`,
    },
  };
}

/** Puts a transmitter's turn by its number. */
function inTurn(turns: Map<string, number>, { sender }: Sounding): Sender {
  const { told, end, aim, latDeg, lonDeg, headingDeg, group, isNear, turnName, isOutsider } = sender;
  const turn = turns.get(turnName) ?? turns.size;
  turns.set(turnName, turn);
  return { told, end, aim, latDeg, lonDeg, headingDeg, group, isNear, turnName, turn, isOutsider };
}

/** Radios of a plan put on its air without a rest. */
const PUT_AT_ONCE = 200;

/** All that is on a plan's air, in classes: whoever listens looks at most of them once. */
export function* airSteps(world: World): Steps<Air> {
  const talks = talksOf(world);
  const classes = new Map<string, { beam: Beam; senders: Sender[] }>();
  const turns = new Map<string, number>();
  const put = (sounding: Sounding | null) => {
    if (!sounding) return;
    const own = classes.get(sounding.className) ?? { beam: sounding.beam, senders: [] };
    classes.set(sounding.className, own);
    own.senders.push(inTurn(turns, sounding));
  };
  let count = 0;
  for (const id of world.radios.keys()) {
    put(soundingOf(world, talks, id));
    if (++count % PUT_AT_ONCE === 0) yield;
  }
  for (const one of world.outsiders.values()) put(soundingAt(world, talks, outsiderEnd(world, one), one.id, true));
  const made = new Map<string, SenderClass>();
  for (const [name, { beam, senders }] of classes) {
    made.set(name, classOf(beam, senders));
    yield;
  }
  return { classes: made, turns, talks };
}

/** The same at once. */
export const airOf = (world: World): Air => finished(airSteps(world));

/** A transmitter before and after a change; null while it is silent. */
export interface Changed {
  id: string;
  was: Sounding | null;
  is: Sounding | null;
}

/** The air after some transmitters on it have changed; the given one is left alone. A class is made anew once, however many of it changed. */
export function airAfter(air: Air, talks: Talks, changed: readonly Changed[]): Air {
  const turns = new Map(air.turns);
  const parts = new Map<string, { beam: Beam; gone: Set<string>; come: Sender[] }>();
  const partOf = ({ className, beam }: Sounding) => {
    const known = parts.get(className);
    if (known) return known;
    const part = { beam, gone: new Set<string>(), come: [] };
    parts.set(className, part);
    return part;
  };
  for (const { id, was, is } of changed) {
    if (was) partOf(was).gone.add(id);
    if (is) partOf(is).come.push(inTurn(turns, is));
  }
  const classes = new Map(air.classes);
  for (const [name, { beam, gone, come }] of parts) {
    const stayed = air.classes.get(name)?.senders.filter(({ told }) => !gone.has(told.radioId)) ?? [];
    if (stayed.length + come.length > 0) classes.set(name, classOf(beam, [...stayed, ...come]));
    else classes.delete(name);
  }
  return { classes, turns, talks };
}
