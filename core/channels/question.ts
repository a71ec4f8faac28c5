import { signedAngleDeg } from "../geodesy";
import { learnedNoiseAt, noiseRise, rateUnder } from "../link";
import { endOf, type World } from "../plan";
import { powerWithinCapDbm } from "../kit";
import { ruleUse } from "../regulation";
import { groupChannelsMHz } from "../propose";
import { channelCouplingDb, channelsMeet, type ChannelsQuestion } from "../spectrum";
import type { ChannelEar } from "./ears";
import { isForbidden, keepGuard, mayUse, groupSites, type ChannelLimits } from "./limits";

/** Named ways to lay channels, each a set of constraints to begin from. */
export const CHANNEL_SCHOOLS = ["free", "headings", "backToBack"] as const;
export type ChannelSchool = (typeof CHANNEL_SCHOOLS)[number];
export const CHANNEL_SCHOOL_WORDS: Record<ChannelSchool, { name: string; meaning: string }> = {
  free: { name: "Free", meaning: "Each radio for itself: whatever costs everybody least." },
  headings: {
    name: "Same heading, same channel",
    meaning:
      "A neighbour’s north uses this tower’s north channel, so that fronts on one channel never face each other.",
  },
  backToBack: {
    name: "Back to back, timed",
    meaning:
      "The two opposite sectors of a mast share a channel: timed together they send and listen at once. Needs radios that keep time.",
  },
};

/** What is asked of a plan of all channels. */
export interface ChannelsAsk {
  school: ChannelSchool;
  /** People whose rate one move of a group must save at the least. */
  workPeople: number;
  /** Groups that stay where they are. */
  fixedIds: readonly string[];
  seconds: number;
  limits: ChannelLimits;
}

/** A plan's channels as a question, and what its choices stand for. */
interface ChannelProblem {
  question: ChannelsQuestion;
  /** The groups that each choice moves, and the frequencies that it chooses among, MHz. */
  members: string[][];
  channelsMHz: number[][];
}

/** A rate lost counts half for each direction. */
const EACH_WAY = 0.5;
/** Bridges of one mast that stand so far apart cost each other nothing more, MHz; side by side they cost as much as so many people. */
const FAR_APART_MHZ = 200;
const BESIDE_PEOPLE = 0.5;

const addedDbm = (xDbm: number, yDbm: number) => 10 * Math.log10(10 ** (xDbm / 10) + 10 ** (yDbm / 10));

/** People whose rate is lost by some more noise over the noise that is there already: all of them where nothing is left. */
export function peopleLost(
  { steps, people, ...ear }: Pick<ChannelEar, "steps" | "people" | "quietDbm">,
  moreDbm: number,
): number {
  const { quietDbm } = ear;
  const quietMbps = rateUnder(steps, quietDbm);
  if (quietMbps === 0) return 0;
  return EACH_WAY * people * (1 - rateUnder(steps, addedDbm(quietDbm, moreDbm)) / quietMbps);
}

/** A decibel of margin that noise takes counts as so much of a rate: of channels that cost no rate the quieter is chosen. */
const DECIBEL_SHARE = 0.002;

/**
 * What another group's noise costs, in people: those whose rate is lost, and two in a thousand for each decibel that the noise rises. It is
 * counted over thermal noise on every channel alike: what is heard from outside differs from channel to channel and is each one's own cost.
 */
export function noiseCost({ steps, people, thermalDbm }: ChannelEar, moreDbm: number): number {
  const riseDb = addedDbm(thermalDbm, moreDbm) - thermalDbm;
  const margin = EACH_WAY * people * DECIBEL_SHARE * riseDb;
  return Math.min(EACH_WAY * people, peopleLost({ steps, people, quietDbm: thermalDbm }, moreDbm) + margin);
}

/** Groups that a school lays on one channel together, by their places; everybody else is alone. */
export function unitsOf(world: World, groups: readonly string[], school: ChannelSchool): string[][] {
  const isSector = (id: string) =>
    endOf(world, id).radio.role === "sector" && endOf(world, id).radio.azimuthDeg !== null;
  const units: string[][] = [];
  const taken = new Set<string>();
  const kitOf = (id: string) => `${world.radios.get(id)!.widthMHz} ${endOf(world, id).model.bandMHz.join(" ")}`;
  if (school === "headings") {
    const byHeading = new Map<string, string[]>();
    for (const id of groups.filter(isSector)) {
      const key = `${Math.round(endOf(world, id).radio.azimuthDeg! / 90) % 4} ${kitOf(id)}`;
      byHeading.set(key, [...(byHeading.get(key) ?? []), id]);
    }
    units.push(...byHeading.values());
  }
  if (school === "backToBack")
    for (const id of groups.filter(isSector)) {
      if (taken.has(id)) continue;
      const own = endOf(world, id).radio;
      const opposite = groups
        .filter((other) => other !== id && !taken.has(other) && isSector(other) && kitOf(other) === kitOf(id))
        .map((other) => endOf(world, other).radio)
        .filter(
          ({ siteId, azimuthDeg }) =>
            siteId === own.siteId && apartDeg(azimuthDeg!, own.azimuthDeg!) >= LEAST_OPPOSITE_DEG,
        )
        .sort((x, y) => apartDeg(y.azimuthDeg!, own.azimuthDeg!) - apartDeg(x.azimuthDeg!, own.azimuthDeg!))[0];
      if (!opposite) continue;
      taken.add(id);
      taken.add(opposite.id);
      units.push([id, opposite.id]);
    }
  const inUnit = new Set(units.flat());
  return [...units, ...groups.filter((id) => !inUnit.has(id)).map((id) => [id])];
}
const LEAST_OPPOSITE_DEG = 135;
const apartDeg = (x: number, y: number) => Math.abs(signedAngleDeg(x - y));

/**
 * A plan's channels as a question: what each choice costs in people (`noiseCost`). Own costs are what scans say of each channel and what its caps take away, and
 * `workPeople` for each group that has to move; pairs cost what each hears of the other by how far their channels overlap. Losses of one
 * pair are counted as if it were alone: with several at once each counts for itself. Groups in `fixedIds` stay, unless the rules forbid where
 * they are. On one mast those that stand closer than the guard cost all who hang on them. With `asItIs` every channel of now can be
 * chosen, to tell what it costs.
 */
export function channelProblem(
  world: World,
  units: readonly (readonly string[])[],
  ears: readonly ChannelEar[],
  { workPeople, fixedIds, seconds, limits }: Pick<ChannelsAsk, "workPeople" | "fixedIds" | "seconds" | "limits">,
  asItIs = false,
): ChannelProblem {
  const radioOf = (id: string) => world.radios.get(id)!;
  const open = (id: string) => {
    const { frequencyMHz, widthMHz } = radioOf(id);
    const channels = groupChannelsMHz(world, id, widthMHz).filter((mhz) => mayUse(world, id, mhz, limits));
    if (channels.includes(frequencyMHz)) return channels;
    // Whoever stands between the channels of the rules may stay there; so does who is to stay, though never on what the rules forbid.
    const mayStay = mayUse(world, id, frequencyMHz, limits) || (fixedIds.includes(id) && !isForbidden(world, id));
    const stays = asItIs || mayStay || channels.length === 0;
    return stays ? [...channels, frequencyMHz].sort((x, y) => x - y) : channels;
  };
  const channelsMHz = units.map((unit) => {
    const [first, ...others] = unit.map(open);
    const common = first!.filter((mhz) => others.every((other) => other.includes(mhz)));
    return common.length > 0 ? common : first!;
  });
  const earsOfGroup = new Map<string, ChannelEar[]>();
  for (const ear of ears) earsOfGroup.set(ear.group, [...(earsOfGroup.get(ear.group) ?? []), ear]);
  const costBetween = pairCosts(world, earsOfGroup, limits.guardMHz);

  const ownCosts = units.map((unit, u) =>
    channelsMHz[u]!.map((mhz) => {
      let sum = 0;
      for (const id of unit) {
        sum += ownCost(world, id, earsOfGroup.get(id) ?? [], mhz) + (radioOf(id).frequencyMHz === mhz ? 0 : workPeople);
        for (const other of unit) if (other !== id) sum += costBetween(id, other, mhz, mhz) / 2;
      }
      return sum;
    }),
  );
  const couplings: { a: number; b: number; costs: number[][] }[] = [];
  for (let a = 0; a < units.length; a++)
    for (let b = a + 1; b < units.length; b++) {
      const costs = channelsMHz[a]!.map((aMHz) =>
        channelsMHz[b]!.map((bMHz) => {
          let sum = 0;
          for (const one of units[a]!) for (const other of units[b]!) sum += costBetween(one, other, aMHz, bMHz);
          return sum;
        }),
      );
      if (costs.some((row) => row.some((cost) => cost > 0))) couplings.push({ a, b, costs });
    }
  const fixed = units.map((unit, u) => {
    const held = unit.find((id) => fixedIds.includes(id));
    const place = held === undefined ? -1 : channelsMHz[u]!.indexOf(radioOf(held).frequencyMHz);
    return place < 0 ? null : place;
  });
  return {
    question: { ownCosts, couplings, fixed, seconds },
    members: units.map((unit) => [...unit]),
    channelsMHz,
  };
}

/** What two groups cost each other, by the channel of each; both ways, and the same for the same distance. */
function pairCosts(world: World, earsOfGroup: ReadonlyMap<string, readonly ChannelEar[]>, guardMHz: number) {
  const known = new Map<string, number>();
  const heardOf = (group: string, by: string) =>
    (earsOfGroup.get(by) ?? []).flatMap((ear) => {
      // As on a tape, an access point and its loudest customer both count.
      const found = ear.heard.filter((one) => one.group === group);
      if (found.length === 0) return [];
      return [{ ear, dbm: found.slice(1).reduce((sum, { dbm }) => addedDbm(sum, dbm), found[0]!.dbm) }];
    });
  const pairs = new Map<string, { ear: ChannelEar; dbm: number; tx: string }[]>();
  const peopleOf = (group: string) =>
    (earsOfGroup.get(group) ?? []).reduce((sum, { people }) => sum + EACH_WAY * people, 0);
  /** Closer than the guard, all who hang on either count as lost. */
  const guardCost = (x: string, y: string, offsetMHz: number) => {
    const apartMHz = offsetMHz - (world.radios.get(x)!.widthMHz + world.radios.get(y)!.widthMHz) / 2;
    return apartMHz < guardMHz && keepGuard(world, x, y) ? peopleOf(x) + peopleOf(y) : 0;
  };
  return (one: string, other: string, oneMHz: number, otherMHz: number): number => {
    const [x, y] = one < other ? [one, other] : [other, one];
    const offsetMHz = Math.abs(oneMHz - otherMHz);
    const key = `${x} ${y} ${offsetMHz}`;
    const before = known.get(key);
    if (before !== undefined) return before;
    const pair = `${x} ${y}`;
    let heard = pairs.get(pair);
    if (!heard) {
      heard = [...heardOf(x, y).map((one) => ({ ...one, tx: x })), ...heardOf(y, x).map((one) => ({ ...one, tx: y }))];
      pairs.set(pair, heard);
    }
    let cost = besideCost(world, x, y, offsetMHz) + guardCost(x, y, offsetMHz);
    for (const { ear, dbm, tx } of heard) {
      const sends = { frequencyMHz: offsetMHz, widthMHz: world.radios.get(tx)!.widthMHz };
      const { radio, model } = endOf(world, ear.group);
      const listens = { frequencyMHz: 0, widthMHz: radio.widthMHz };
      if (!channelsMeet(sends, listens)) continue;
      const couplingDb = channelCouplingDb({
        offsetMHz,
        txWidthMHz: sends.widthMHz,
        rxWidthMHz: listens.widthMHz,
        rejectionDb: model.adjacentRejectionDb,
      });
      cost += noiseCost(ear, dbm + couplingDb);
    }
    known.set(key, cost);
    return cost;
  };
}

/** What two bridges that meet on one mast cost beyond what they hear: they are to stand as far apart as the band allows. */
function besideCost(world: World, x: string, y: string, offsetMHz: number): number {
  const isBridge = (id: string) => world.radios.get(id)!.role === "bridge";
  const own = groupSites(world, x);
  const isShared = isBridge(x) && isBridge(y) && groupSites(world, y).some((id) => own.includes(id));
  return isShared ? BESIDE_PEOPLE * Math.max(0, 1 - offsetMHz / FAR_APART_MHZ) : 0;
}

/**
 * What a channel costs a group by itself, in people: by what scans heard there, and by power that its caps take away, against its tapes
 * with thermal noise alone and the power of now.
 */
function ownCost(world: World, group: string, ears: readonly ChannelEar[], mhz: number): number {
  const { role } = world.radios.get(group)!;
  const turnedDownDb = (id: string) => {
    const { radio, model, antenna } = endOf(world, id);
    const cap = powerWithinCapDbm(world, { model, antenna, radio: { ...radio, frequencyMHz: mhz } }, ruleUse(role));
    return Math.max(0, radio.txPowerDbm - cap);
  };
  const nearDb = turnedDownDb(group);
  let sum = 0;
  for (const { linkId, direction, steps, people, thermalDbm, quietDbm, headingDeg, outsiders } of ears) {
    const best = rateUnder(steps, thermalDbm);
    if (best === 0) continue;
    const { aRadioId, bRadioId } = world.links.get(linkId)!;
    const to = endOf(world, direction === "down" ? bRadioId : aRadioId);
    const air = { frequencyMHz: mhz, widthMHz: to.radio.widthMHz };
    // What is set on a radio was heard on its channel of now: of any other one scans and measurements alone tell.
    const isNow = mhz === to.radio.frequencyMHz;
    const listens = isNow ? to : { ...to, radio: { ...to.radio, interferenceDb: 0 } };
    const scannedDb = isNow
      ? quietDbm - thermalDbm
      : noiseRise(listens, thermalDbm, headingDeg, air, null, learnedNoiseAt(world.plan, to, mhz)).riseDb;
    const riseDb = withOutsidersDbm(thermalDbm + scannedDb, outsiders, air, to.model.adjacentRejectionDb) - thermalDbm;
    // Less power is as bad as so much more noise.
    const lessDb = direction === "down" ? nearDb : turnedDownDb(bRadioId);
    sum += EACH_WAY * people * (1 - rateUnder(steps, thermalDbm + riseDb + lessDb) / best);
  }
  return sum;
}

/** Some noise with what outsiders put into a channel besides, dBm on a chain. */
function withOutsidersDbm(
  quietDbm: number,
  outsiders: ChannelEar["outsiders"],
  air: { frequencyMHz: number; widthMHz: number },
  rejectionDb: number,
): number {
  return outsiders.reduce((sum, { dbm, frequencyMHz, widthMHz }) => {
    if (!channelsMeet({ frequencyMHz, widthMHz }, air)) return sum;
    const offset = { offsetMHz: frequencyMHz - air.frequencyMHz, txWidthMHz: widthMHz, rxWidthMHz: air.widthMHz };
    return addedDbm(sum, dbm + channelCouplingDb({ ...offset, rejectionDb }));
  }, quietDbm);
}
