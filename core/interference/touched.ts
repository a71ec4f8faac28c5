import { endOf, type Link, type World } from "../plan";
import { earOf, gather, mayOverlap, nobody, type Ear } from "./candidates";
import { airOf, classOf, type Sender, type SenderClass } from "./senders";

/** A transmitter with the class that it stands in. */
interface OnAir {
  own: SenderClass;
  sender: Sender;
}

/** Some radios as they are on the air of a world; those that are silent are left out. */
function onAirOf(world: World, radioIds: ReadonlySet<string>): Map<string, OnAir> {
  const found = new Map<string, OnAir>();
  for (const own of airOf(world).classes)
    for (const sender of own.senders)
      if (radioIds.has(sender.end.radio.id)) found.set(sender.end.radio.id, { own, sender });
  return found;
}

/** Whether a transmitter is the same to whoever hears it. */
function isHeardAlike(before: OnAir | undefined, after: OnAir | undefined): boolean {
  if (!before || !after) return before === after;
  const [x, y] = [before.sender, after.sender];
  return (
    before.own.frequencyMHz === after.own.frequencyMHz &&
    before.own.widthMHz === after.own.widthMHz &&
    before.own.beamDbm === after.own.beamDbm &&
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

/** One class for each of the transmitters' classes, with nobody else in it. */
function classesOf(onAir: readonly OnAir[]): SenderClass[] {
  const senders = new Map<SenderClass, Sender[]>();
  for (const { own, sender } of onAir) senders.set(own, [...(senders.get(own) ?? []), sender]);
  return [...senders].map(([own, some]) => classOf(own, some));
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
  if (radioIds.size === 0) return () => false;
  const [was, is] = [onAirOf(before, radioIds), onAirOf(after, radioIds)];
  const changed = [...radioIds].filter((id) => !isHeardAlike(was.get(id), is.get(id)));
  const classes = classesOf(changed.flatMap((id) => [was.get(id) ?? [], is.get(id) ?? []].flat()));
  if (classes.length === 0) return () => false;
  const turns = Math.max(airOf(before).turns, airOf(after).turns);
  return (link, radioId) => {
    const to = endOf(after, radioId);
    const near = classes.filter((own) => mayOverlap(own, to, link));
    if (near.length === 0) return false;
    const ear: Ear = earOf(after, link, to);
    return near.some((own) => {
      const heard = nobody(turns);
      gather(ear, own, heard);
      return heard.found.size > 0;
    });
  };
}
