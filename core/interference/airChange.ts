import type { Link, Radio, World } from "../plan";
import { channelsMeet } from "../spectrum";
import { listensInMHz } from "./listening";
import { airAfter, classOf, soundingOf, type Air, type Changed, type SenderClass, type Sounding } from "./senders";
import { talksOf } from "./talks";

/** What a change does to a plan's air. */
export interface AirChange {
  changed: readonly (Changed & { /** As it is, as a class of its own. */ alone: SenderClass | null })[];
  air: Air;
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

/** What is heard otherwise after a change that touches some radios; `air` is that of before. */
export function airChangeOf(
  before: World,
  air: Air,
  after: World,
  radioIds: ReadonlySet<string>,
): AirChange | { changed: null; air: Air } {
  const talks = before.links === after.links ? air.talks : talksOf(after);
  const found = [...radioIds].flatMap((id): Changed[] => {
    const [was, is] = [soundingOf(before, air.talks, id), soundingOf(after, talks, id)];
    return isHeardAlike(was, is) ? [] : [{ id, was, is }];
  });
  if (found.length === 0) return { changed: null, air: talks === air.talks ? air : { ...air, talks } };
  const changed = found.map((one) => ({
    ...one,
    alone: one.is && classOf(one.is.beam, [{ ...one.is.sender, turn: 0 }]),
  }));
  const channels = new Map<string, Sounding["beam"]>();
  for (const { was, is } of changed)
    for (const one of [was, is]) if (one) channels.set(`${one.beam.frequencyMHz} ${one.beam.widthMHz}`, one.beam);
  const beams = [...channels.values()];
  const mayReach = (radio: Radio, link: Link) => {
    const listensMHz = listensInMHz({ radio, model: after.radioModels.get(radio.radioModelId)! }, link);
    return beams.some((beam) => channelsMeet(beam, { frequencyMHz: listensMHz, widthMHz: radio.widthMHz }));
  };
  return { changed, air: airAfter(air, talks, changed), mayReach };
}
