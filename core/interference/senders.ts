import { peakGainDbi } from "../antenna";
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
  /** Who takes turns with it: the customers of one sector never send at once. */
  turn: string;
  /** Whether it is an access point or the near end of a bridge: those of one timing group send at the same times. */
  isNear: boolean;
}

/** Transmitters that differ in nothing but where they stand and look. */
export interface SenderClass {
  frequencyMHz: number;
  widthMHz: number;
  /** Power in the direction of the beam, dBm: cable and walls off, the antenna's gain on. */
  beamDbm: number;
  senders: Sender[];
}

/** The frequency on which a radio sends, MHz: in FDD the far end of a bridge answers on the other one. */
function sendsOnMHz(groups: ReadonlyMap<string, string>, { radio, model }: LinkEnd): number {
  const isFarEnd = model.duplex === "FDD" && groups.get(radio.id) !== radio.id;
  return isFarEnd ? returnFrequencyMHz(model, radio.frequencyMHz) : radio.frequencyMHz;
}

/** Classes by world, each of which stays what it is. */
const classesOf = new WeakMap<World, SenderClass[]>();

/** All that is on a plan's air, in classes: whoever listens looks at most of them once. A radio without a link is silent. */
export function senderClasses(world: World): SenderClass[] {
  const known = classesOf.get(world);
  if (known) return known;
  const groups = talksWith(world);
  const classes = new Map<string, SenderClass>();
  for (const radio of world.radios.values()) {
    const group = groups.get(radio.id);
    if (group === undefined || !world.radioModels.has(radio.radioModelId)) continue;
    const end = endOf(world, radio.id);
    const frequencyMHz = sendsOnMHz(groups, end);
    const { widthMHz, txPowerDbm, cableLossDb, polarization, antennaModelId, radioModelId } = radio;
    const key = [
      frequencyMHz,
      widthMHz,
      txPowerDbm,
      cableLossDb,
      polarization,
      antennaModelId,
      radioModelId,
      end.behind,
    ];
    const name = key.join(" ");
    let own = classes.get(name);
    if (!own) {
      const gainDbi = peakGainDbi(end.antenna, frequencyMHz, polarization);
      const beamDbm = txPowerDbm - cableLossDb - wallDb(end, frequencyMHz / 1000) + gainDbi;
      classes.set(name, (own = { frequencyMHz, widthMHz, beamDbm, senders: [] }));
    }
    const turn = radio.role === "subscriber" ? group : `${radio.id} alone`;
    const isNear = group === radio.id;
    const aim = aimOf(world, end);
    const { latDeg, lonDeg } = end.place;
    own.senders.push({ end, aim, latDeg, lonDeg, headingDeg: radio.azimuthDeg ?? aim.bearingDeg, group, turn, isNear });
  }
  const all = [...classes.values()];
  classesOf.set(world, all);
  return all;
}
