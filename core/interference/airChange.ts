import type { Link, Radio, World } from "../plan";
import { mayOverlap } from "./candidates";
import { listensOnMHz, type Listening } from "./listening";
import { classOf, soundingOf, type SenderClass, type Sounding } from "./senders";
import { talksOf } from "./talks";

/** A transmitter that is heard otherwise now. */
export interface Changed {
  id: string;
  /** Null while it is silent. */
  was: Sounding | null;
  is: Sounding | null;
  /** As it is, as a class of its own. */
  alone: SenderClass | null;
}

/** What a change does to a plan's air. */
export interface AirChange {
  changed: readonly Changed[];
  /** Whether any of it lies near the channel of a receiver. */
  mayReach: (radio: Radio, link: Link) => boolean;
}

/** Whether a transmitter is the same to whoever hears it. */
function isHeardAlike(before: Sounding | null, after: Sounding | null): boolean {
  if (!before || !after) return before === after;
  const [x, y] = [before.sender, after.sender];
  return (
    before.beam.frequencyMHz === after.beam.frequencyMHz &&
    before.beam.widthMHz === after.beam.widthMHz &&
    before.beam.beamDbm === after.beam.beamDbm &&
    x.end.antenna === y.end.antenna &&
    x.end.model === y.end.model &&
    x.end.radio.polarization === y.end.radio.polarization &&
    x.end.radio.heightM === y.end.radio.heightM &&
    x.end.radio.tiltDownDeg === y.end.radio.tiltDownDeg &&
    x.end.radio.bracketTurned === y.end.radio.bracketTurned &&
    x.end.radio.timingGroup === y.end.radio.timingGroup &&
    x.end.radio.name === y.end.radio.name &&
    x.end.placeName === y.end.placeName &&
    x.latDeg === y.latDeg &&
    x.lonDeg === y.lonDeg &&
    x.headingDeg === y.headingDeg &&
    x.group === y.group &&
    x.end.radio.role === y.end.radio.role &&
    x.isNear === y.isNear
  );
}

/** What is heard otherwise after a change that touches some radios; null where nothing is. */
export function airChangeOf(before: World, after: Listening, radioIds: ReadonlySet<string>): AirChange | null {
  if (radioIds.size === 0) return null;
  const talksBefore = before.links === after.world.links ? after.talks() : talksOf(before);
  const changed = [...radioIds].flatMap((id): Changed[] => {
    const [was, is] = [soundingOf(before, talksBefore, id), soundingOf(after.world, after.talks(), id)];
    return isHeardAlike(was, is) ? [] : [{ id, was, is, alone: is && classOf(is.beam, [{ ...is.sender, turn: 0 }]) }];
  });
  if (changed.length === 0) return null;
  const channels = new Map<string, Sounding["beam"]>();
  for (const { was, is } of changed)
    for (const one of [was, is]) if (one) channels.set(`${one.beam.frequencyMHz} ${one.beam.widthMHz}`, one.beam);
  const beams = [...channels.values()];
  const mayReach = (radio: Radio, link: Link) => {
    const listensMHz = listensOnMHz({ radio, model: after.world.radioModels.get(radio.radioModelId)! }, link);
    return beams.some((beam) => mayOverlap(beam, radio, listensMHz));
  };
  return { changed, mayReach };
}
