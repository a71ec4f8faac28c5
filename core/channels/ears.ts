import { earsOf, listeningIn } from "../interference";
import { heardThroughBeam, noiseSteps, type LinkAnswer, type NoiseStep, type OwnNoise, type PathAnswer } from "../link";
import { answering, backboneOf, peopleBehind, type Backbone, type ProfileSource } from "../outcome";
import { endOf, setPatch, withPatches, type Link, type World } from "../plan";

/** One direction of a link: what it carries under any noise, and what it would hear of every other group on its own channel. */
export interface ChannelEar {
  linkId: string;
  direction: "down" | "up";
  /** The access point or near bridge end whose channel it listens on. */
  group: string;
  people: number;
  steps: NoiseStep[];
  /** Thermal noise, and with what is heard of outsiders on the channel of now, on a chain, dBm. */
  thermalDbm: number;
  quietDbm: number;
  /** What it listens on: in FDD not what its group sends on, MHz. */
  listensMHz: number;
  /** Where its receiver looks, degrees. */
  headingDeg: number;
  /** The access point and the loudest customer of each other group, on a chain, were both on one channel. */
  heard: { group: string; radioId: string; dbm: number; frequencyMHz: number; widthMHz: number }[];
  /** Outsiders with a place, each as if it sent on the receiver's own channel, and where it truly sends. */
  outsiders: { dbm: number; frequencyMHz: number; widthMHz: number }[];
}

/** Groups of radios that share a channel each, by their access point or near bridge end; two-way radios with one channel alone. */
export function channelGroups(world: World): string[] {
  // A sector stands in the links of all its customers: it is looked at once.
  const nearEnds = new Set([...world.links.values()].map(({ aRadioId }) => aRadioId));
  return [...nearEnds].filter((id) => world.radios.has(id) && endOf(world, id).model.duplex !== "FDD").sort();
}

/** Groups whose radios can be tuned to a common channel hear each other: those are put together. */
function clusters(world: World, groups: readonly string[]): string[][] {
  const bandOf = (id: string) => endOf(world, id).model.bandMHz;
  const byBand = [...groups].sort((x, y) => bandOf(x)[0] - bandOf(y)[0]);
  const found: { highMHz: number; groups: string[] }[] = [];
  for (const id of byBand) {
    const [lowMHz, highMHz] = bandOf(id);
    const last = found.at(-1);
    if (last && lowMHz <= last.highMHz) {
      last.groups.push(id);
      last.highMHz = Math.max(last.highMHz, highMHz);
    } else found.push({ highMHz, groups: [id] });
  }
  return found.map((one) => one.groups);
}

const WAYS = ["down", "up"] as const;

/** What one person uses where no customer says, Mbit/s. */
const USUAL_MBPS = 5;

/**
 * How much a link counts: by the people behind it; a bridge behind which nobody stands by what it must carry, in people of the plan's usual
 * demand, and as one person where not even that is known.
 */
function weightOf(world: World, link: Link, backbone: Backbone): number {
  const people = peopleBehind(world, link, () => backbone);
  if (people > 0) return people;
  const required = world.required.get(link.id);
  if (!required) return 1;
  const rates = [...world.subscribers.values()];
  const heads = rates.reduce((sum, one) => sum + one.people, 0);
  const eachMbps = heads > 0 ? rates.reduce((sum, one) => sum + one.demandMbps, 0) / heads : 0;
  return Math.max(1, Math.max(required.downMbps, required.upMbps) / (eachMbps || USUAL_MBPS));
}

/** One direction of an answered link, with what it hears of other groups. */
function earOf(
  { id: linkId, aRadioId: group }: Link,
  direction: "down" | "up",
  { aToB, bToA }: PathAnswer,
  people: number,
  hears: OwnNoise,
  counts: (group: string) => boolean,
): ChannelEar {
  const tape = direction === "down" ? aToB : bToA;
  const thermalDbm = tape.noiseDbm - tape.noise.riseDb;
  return {
    linkId,
    direction,
    group,
    people,
    steps: noiseSteps(tape),
    thermalDbm,
    quietDbm: thermalDbm + tape.noise.outsideDb,
    listensMHz: tape.question.path.frequencyMHz,
    headingDeg: tape.question.toPointing.azimuthDeg,
    heard: hears.radios
      .filter((one) => one.group !== group && counts(one.group))
      .map(({ group: by, radioId, dbm, frequencyMHz, widthMHz }) => ({
        group: by,
        radioId,
        dbm,
        frequencyMHz,
        widthMHz,
      })),
    outsiders: [],
  };
}

/**
 * Both directions of a plan's links as they hear each other on the channels of now, in full; of all links each `of`th where several share the
 * work.
 */
export function earsNow(world: World, between: ProfileSource, part = { index: 0, of: 1 }): ChannelEar[] {
  const answer = answering(world, between);
  const backbone = backboneOf(world);
  return [...world.links.values()].flatMap((link, i) => {
    const { path } = i % part.of === part.index ? answer(link) : { path: null };
    if (!path) return [];
    const people = weightOf(world, link, backbone);
    return WAYS.map((direction) => {
      const { heard } = (direction === "down" ? path.aToB : path.bToA).question;
      return earOf(link, direction, path, people, heard ?? NOBODY, () => true);
    });
  });
}
const NOBODY: OwnNoise = { dbm: null, radios: [], faintCount: 0 };

/**
 * Both directions of every link of some groups, each with what it would hear of the other groups if all of them stood on one channel: both
 * patterns, polarizations, the ground between, a shared mast and timing as in the tapes' own noise.
 */
export function channelEars(
  world: World,
  groups: readonly string[],
  answers: ReadonlyMap<string, LinkAnswer>,
  between: ProfileSource,
): ChannelEar[] {
  const backbone = backboneOf(world);
  const byGroup = new Map<string, Link[]>();
  for (const link of world.links.values()) byGroup.set(link.aRadioId, [...(byGroup.get(link.aRadioId) ?? []), link]);
  return clusters(world, groups).flatMap((cluster) => {
    const { frequencyMHz } = world.radios.get(cluster[0]!)!;
    const carriers = new Set(cluster.map((id) => world.radios.get(id)!.carrierId));
    const together = withPatches(world, [
      ...[...carriers].map((id) => setPatch("carriers", id, { frequencyMHz })),
      ...[...world.outsiders.keys()].map((id) => setPatch("outsiders", id, { frequencyMHz })),
    ]);
    const hears = earsOf(listeningIn(together), between, "alone");
    const isIn = new Set(cluster);
    return cluster.flatMap((group) =>
      (byGroup.get(group) ?? []).flatMap((link): ChannelEar[] => {
        const path = answers.get(link.id)?.path;
        const near = together.links.get(link.id);
        if (!path || !near) return [];
        const people = weightOf(world, link, backbone);
        const { a, b } = hears(near);
        const { to, toPointing } = path.bToA.question;
        const atNear = heardThroughBeam(to, toPointing, a);
        return WAYS.map((direction): ChannelEar => {
          const hears = direction === "down" ? b : atNear;
          return {
            ...earOf(link, direction, path, people, hears, (other) => isIn.has(other)),
            outsiders: hears.radios.flatMap(({ radioId, dbm }) => {
              const outsider = world.outsiders.get(radioId);
              return outsider ? [{ dbm, frequencyMHz: outsider.frequencyMHz, widthMHz: outsider.widthMHz }] : [];
            }),
          };
        });
      }),
    );
  });
}
