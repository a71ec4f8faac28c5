import { endOf, type Link, type World } from "../plan";
import { earOf, gather, mayOverlap, nobody, type Ear } from "./candidates";
import { classOf, soundingOf, type SenderClass, type Sounding } from "./senders";

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

/** Some transmitters in their classes, as if they all took turns: it is enough that one of them is heard. */
function classesOf(soundings: readonly Sounding[]): SenderClass[] {
  const classes = new Map<string, Sounding[]>();
  for (const one of soundings) classes.set(one.className, [...(classes.get(one.className) ?? []), one]);
  return [...classes.values()].map((all) =>
    classOf(
      all[0]!.beam,
      all.map(({ sender }) => ({ ...sender, turn: 0 })),
    ),
  );
}

/**
 * Tells which receivers may hear a change to some radios of a plan: those at which one that changed on the air was or is loud
 * enough to be looked at. Whoever is left out hears exactly what was heard before.
 */
export function hearingTouched(
  before: World,
  after: World,
  radioIds: ReadonlySet<string>,
): (link: Link, radioId: string) => boolean {
  const changed = [...radioIds].flatMap((id) => {
    const [was, is] = [soundingOf(before, id), soundingOf(after, id)];
    return isHeardAlike(was, is) ? [] : [was, is].filter((one) => one !== null);
  });
  const classes = classesOf(changed);
  if (classes.length === 0) return () => false;
  return (link, radioId) => {
    const to = endOf(after, radioId);
    const near = classes.filter((own) => mayOverlap(own, to, link));
    if (near.length === 0) return false;
    const ear: Ear = earOf(after, link, to);
    return near.some((own) => {
      const heard = nobody(1);
      gather(ear, own, heard);
      return heard.found.size > 0;
    });
  };
}
