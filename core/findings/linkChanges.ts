import { peakGainDbi } from "../antenna";
import { inverseGeodesic } from "../geodesy";
import type { LinkAnswer } from "../link";
import { linkEnds, linksOn, radioPatches, setPatch, withPatches, type Link, type Radio, type World } from "../plan";
import { endsOf, type RemedyCase, type LinkFault } from "./checks/check";
import { antennasFor, powerSparingDbm, powerWithinCapDbm, withPowerInCap } from "../kit";
import { ruleUse } from "../regulation";
import { answerOf, type ProfileSource } from "../outcome";
import type { Change } from "../trial";
import { channelsMHz, clientOnSector, groupChannelsMHz, groupName, groupOn } from "../propose";
import { figure, shortFigure } from "../words";

/** Heights are set to half metres, as a crew would. */
const upToHalf = (heightM: number) => Math.ceil(heightM * 2) / 2;

/** Raising either end, or both, until the wanted share of the zone is free. */
export function* higher({ a, b, answer, world, link, profileBetween }: RemedyCase): Generator<Change> {
  if (!answer.path) return;
  const { leastHeightAM, leastHeightBM } = answer.path.clearance;
  for (const [end, least] of [
    [a, leastHeightAM],
    [b, leastHeightBM],
  ] as const) {
    const heightM = upToHalf(least);
    if (heightM > end.radio.heightM && heightM <= end.maxHeightM) {
      yield {
        label: `Raise the ${end.placeName} end from ${end.radio.heightM} to ${heightM} m`,
        patches: radioPatches(world, { ...end.radio, heightM }),
      };
    }
  }
  for (const [full, other] of [
    [a, b],
    [b, a],
  ] as const) {
    if (full.radio.heightM >= full.maxHeightM) continue;
    const raised = radioPatches(world, { ...full.radio, heightM: full.maxHeightM });
    const tried = answerOf(withPatches(world, raised), link, profileBetween);
    const least = tried.path && (other === a ? tried.path.clearance.leastHeightAM : tried.path.clearance.leastHeightBM);
    if (least === null) continue;
    const heightM = upToHalf(least);
    if (heightM > other.radio.heightM && heightM <= other.maxHeightM) {
      yield {
        label: `Raise ${full.placeName} to ${full.maxHeightM} m and ${other.placeName} to ${heightM} m`,
        patches: [...raised, ...radioPatches(world, { ...other.radio, heightM })],
      };
    }
  }
}

/** Serving the subscriber from another sector, with the kit that the sector's band needs. */
export function* elsewhere({ world, link, b }: RemedyCase): Generator<Change> {
  if (link.kind !== "access") return;
  for (const sector of world.radios.values()) {
    if (sector.role !== "sector" || sector.id === link.aRadioId || sector.siteId === null) continue;
    const client = clientOnSector(world, b, sector);
    if (!client) continue;
    const { radio, model, keepsKit } = client;
    yield {
      label: `Serve from ${world.sites.get(sector.siteId)!.name}, ${sector.name}${keepsKit ? "" : ` with ${model.model}`}`,
      patches: [...radioPatches(world, radio), setPatch("links", link.id, { aRadioId: sector.id, state: "planned" })],
    };
  }
}

/** More level: power up to the cap, a bigger antenna at the ends that aim, a narrower channel. */
export function* stronger({ world, link, a, b }: RemedyCase): Generator<Change> {
  const use = ruleUse(link.kind);
  const raised: Radio[] = [];
  for (const end of [a, b]) {
    const cap = powerWithinCapDbm(world, end, use);
    if (cap > end.radio.txPowerDbm) raised.push({ ...end.radio, txPowerDbm: cap });
  }
  if (raised.length > 0) {
    yield {
      label: `Use the power that the cap leaves: ${raised.map((r) => `${r.name} ${shortFigure(r.txPowerDbm)} dBm`).join(", ")}`,
      patches: raised.flatMap((radio) => radioPatches(world, radio)),
    };
  }
  const ends = [b, a].filter((end) => end.radio.azimuthDeg === null);
  for (const antenna of antennasFor(world, b.radio.role, a.radio.frequencyMHz, b.model)) {
    const gain = peakGainDbi(antenna, a.radio.frequencyMHz);
    const better = ends.filter((end) => gain > peakGainDbi(end.antenna, a.radio.frequencyMHz));
    if (better.length === 0) continue;
    const changed = better.map((end) => ({
      ...end.radio,
      antennaModelId: antenna.id,
      txPowerDbm: powerWithinCapDbm(world, { ...end, antenna }, use),
    }));
    yield {
      label: `${antenna.maker} ${antenna.model} (${gain.toFixed(0)} dBi) at ${better.map((end) => end.placeName).join(" and ")}`,
      patches: changed.flatMap((radio) => radioPatches(world, radio)),
    };
  }
  const others = linksOn(world, link.aRadioId).some(({ id }) => id !== link.id);
  if (!others) {
    const widths = a.model.widthsMHz.filter((width) => width < a.radio.widthMHz && b.model.widthsMHz.includes(width));
    for (const widthMHz of widths.sort((x, y) => y - x)) {
      yield {
        label: `Narrow the channel from ${a.radio.widthMHz} to ${widthMHz} MHz`,
        patches: radioPatches(world, { ...a.radio, widthMHz }),
      };
    }
  }
}

/** Less power, and where that alone is too little a larger antenna at the far end or both, which radiates no more. */
export function* turnedDown({ world, link, a, b }: RemedyCase, fault: LinkFault): Generator<Change> {
  const end = fault.radioId === a.radio.id ? a : b;
  const use = ruleUse(link.kind);
  const radio = withPowerInCap(world, end, use);
  if (radio === end.radio) return;
  const down = `Turn ${end.radio.name} down from ${shortFigure(end.radio.txPowerDbm)} to ${shortFigure(radio.txPowerDbm)} dBm`;
  yield { label: down, patches: radioPatches(world, radio) };
  const other = end === a ? b : a;
  const otherRadio = withPowerInCap(world, other, use);
  if (otherRadio !== other.radio) {
    yield {
      label: `Turn both ends down, to ${shortFigure(radio.txPowerDbm)} and ${shortFigure(otherRadio.txPowerDbm)} dBm`,
      patches: [...radioPatches(world, radio), ...radioPatches(world, otherRadio)],
    };
  }
  if (other.radio.azimuthDeg !== null) return;
  const frequencyMHz = end.radio.frequencyMHz;
  for (const antenna of antennasFor(world, other.radio.role, frequencyMHz, other.model)) {
    if (peakGainDbi(antenna, frequencyMHz) <= peakGainDbi(other.antenna, frequencyMHz)) continue;
    const txPowerDbm = Math.min(otherRadio.txPowerDbm, powerWithinCapDbm(world, { ...other, antenna }, use));
    yield {
      label: `${down}, with ${antenna.maker} ${antenna.model} (${peakGainDbi(antenna, frequencyMHz).toFixed(0)} dBi) at ${other.placeName}`,
      patches: [
        ...radioPatches(world, radio),
        ...radioPatches(world, { ...otherRadio, antennaModelId: antenna.id, txPowerDbm }),
      ],
    };
  }
}

/** Less power at an end that is too strong for the other, or smaller antennas where it cannot be turned down so far. */
export function* gentler({ world, link, a, b, answer }: RemedyCase, fault: LinkFault): Generator<Change> {
  if (!answer.path) return;
  const { aToB, bToA } = answer.path;
  const lowered = [aToB, bToA].map((tape) => {
    const { from } = tape.question;
    return { ...from.radio, txPowerDbm: powerSparingDbm(from, tape.overloadDb) };
  });
  const [aRadio, bRadio] = lowered as [Radio, Radio];
  const own = fault.radioId === a.radio.id ? aRadio : bRadio;
  yield {
    label: `Turn ${own.name} down to ${shortFigure(own.txPowerDbm)} dBm`,
    patches: radioPatches(world, own),
  };
  if (aToB.overloadDb > 0 && bToA.overloadDb > 0)
    yield {
      label: `Turn both ends down, to ${shortFigure(aRadio.txPowerDbm)} and ${shortFigure(bRadio.txPowerDbm)} dBm`,
      patches: [...radioPatches(world, aRadio), ...radioPatches(world, bRadio)],
    };
  const frequencyMHz = a.radio.frequencyMHz;
  for (const antenna of antennasFor(world, b.radio.role, frequencyMHz, b.model)) {
    if (peakGainDbi(antenna, frequencyMHz) >= peakGainDbi(b.antenna, frequencyMHz)) continue;
    const at = [a, b].filter((end) => end.radio.azimuthDeg === null && end.radio.role === b.radio.role);
    yield {
      label: `${antenna.maker} ${antenna.model} (${peakGainDbi(antenna, frequencyMHz).toFixed(0)} dBi) at ${at.map((end) => end.placeName).join(" and ")}, turned down`,
      patches: [a, b].flatMap((end) => {
        const radio = end === a ? aRadio : bRadio;
        const changed = at.includes(end) ? { ...radio, antennaModelId: antenna.id } : radio;
        const model = at.includes(end) ? antenna : end.antenna;
        return radioPatches(world, {
          ...changed,
          txPowerDbm: Math.min(
            changed.txPowerDbm,
            powerWithinCapDbm(world, { ...end, antenna: model, radio: changed }, ruleUse(link.kind)),
          ),
        });
      }),
    };
  }
}

/** Channels tried against noise, and how many of the best are offered. */
const MOST_CHANNELS_TRIED = 24;
const MOST_CHANNELS_OFFERED = 2;

/** The whole access point or bridge on another channel: the ones with the best signal to noise on this link. */
export function* otherChannels({ world, link, profileBetween }: RemedyCase, groupId: string): Generator<Change> {
  const radio = world.radios.get(groupId)!;
  const others = groupChannelsMHz(world, groupId, radio.widthMHz).filter((centre) => centre !== radio.frequencyMHz);
  const every = Math.max(1, Math.ceil(others.length / MOST_CHANNELS_TRIED));
  const ranked = others
    .filter((_, i) => i % every === 0)
    .map((frequencyMHz) => {
      const patches = groupOn(world, groupId, frequencyMHz, radio.widthMHz);
      const tried = withPatches(world, patches);
      const { path } = answerOf(tried, tried.links.get(link.id)!, profileBetween);
      return { frequencyMHz, patches, snrDb: path ? Math.min(path.aToB.snrDb, path.bToA.snrDb) : -Infinity };
    })
    .sort((x, y) => y.snrDb - x.snrDb);
  for (const { frequencyMHz, patches, snrDb } of ranked.slice(0, MOST_CHANNELS_OFFERED))
    yield {
      label: `Move ${groupName(world, groupId)} from ${radio.frequencyMHz} to ${frequencyMHz} MHz: ${figure(snrDb, 0)} dB of signal to noise`,
      patches,
    };
}

/** Both ends on the channel of either. */
export function* sameChannel({ world, a, b }: RemedyCase): Generator<Change> {
  for (const [like, changed] of [
    [a, b],
    [b, a],
  ] as const) {
    const { carrierId, frequencyMHz, widthMHz } = like.radio;
    yield {
      label: `Set ${changed.radio.name} to ${frequencyMHz} MHz, ${widthMHz} MHz wide, like ${like.radio.name}`,
      patches: radioPatches(world, { ...changed.radio, carrierId, frequencyMHz, widthMHz }),
    };
  }
}

/** A wider channel for the access point or bridge and all that talk to it. */
export function* wider({ world, link, a }: RemedyCase): Generator<Change> {
  for (const widthMHz of a.model.widthsMHz.filter((width) => width > a.radio.widthMHz).sort((x, y) => x - y)) {
    const centres = groupChannelsMHz(world, link.aRadioId, widthMHz);
    const nearest = centres.sort((x, y) => Math.abs(x - a.radio.frequencyMHz) - Math.abs(y - a.radio.frequencyMHz))[0];
    if (nearest === undefined) continue;
    yield {
      label: `A channel of ${widthMHz} instead of ${a.radio.widthMHz} MHz for ${groupName(world, link.aRadioId)}, at ${nearest} MHz`,
      patches: groupOn(world, link.aRadioId, nearest, widthMHz),
    };
  }
}

export function* reachable({ world, link, a, b }: RemedyCase, fault: LinkFault): Generator<Change> {
  const end = fault.radioId === a.radio.id ? a : b;
  yield {
    label: `Mount the bracket of ${end.radio.name} turned over`,
    patches: radioPatches(world, { ...end.radio, bracketTurned: !end.radio.bracketTurned }),
  };
  for (const antenna of antennasFor(world, end.radio.role, end.radio.frequencyMHz, end.model)) {
    if (antenna.id === end.antenna.id) continue;
    const txPowerDbm = Math.min(
      end.radio.txPowerDbm,
      powerWithinCapDbm(world, { ...end, antenna }, ruleUse(link.kind)),
    );
    yield {
      label: `${antenna.maker} ${antenna.model}, whose bracket reaches ${antenna.bracketDownDeg}° down and ${antenna.bracketUpDeg}° up`,
      patches: radioPatches(world, { ...end.radio, antennaModelId: antenna.id, txPowerDbm }),
    };
  }
}

export function* inBand({ world, link, a, b }: RemedyCase): Generator<Change> {
  const low = Math.max(...[a, b].flatMap((end) => [end.model.bandMHz[0], end.antenna.bandMHz[0]]));
  const high = Math.min(...[a, b].flatMap((end) => [end.model.bandMHz[1], end.antenna.bandMHz[1]]));
  if (low >= high) return;
  // In FDD the lower of the two frequencies names the channel: the other must find room above it.
  const top = high - (a.model.duplex === "FDD" ? (a.model.duplexSpacingMHz ?? 0) : 0);
  const { widthMHz, frequencyMHz: nowMHz } = a.radio;
  const use = ruleUse(link.kind);
  const open = channelsMHz(world, use, widthMHz).filter((mhz) => mhz >= low && mhz <= top);
  const sends = (frequencyMHz: number) =>
    [a, b].reduce(
      (sum, end) => sum + powerWithinCapDbm(world, { ...end, radio: { ...end.radio, frequencyMHz } }, use),
      0,
    );
  const least = (of: (mhz: number) => number) =>
    open.reduce<number | undefined>((best, mhz) => (best === undefined || of(mhz) < of(best) ? mhz : best), undefined);
  // The nearest channel that the rules leave open, and the one on which most may be sent.
  const centres = new Set([least((mhz) => Math.abs(mhz - nowMHz)), least((mhz) => -sends(mhz))]);
  for (const frequencyMHz of centres) {
    if (frequencyMHz === undefined) continue;
    yield {
      label: `Move the link to ${frequencyMHz} MHz`,
      patches: [a, b].flatMap((end) =>
        radioPatches(world, withPowerInCap(world, { ...end, radio: { ...end.radio, frequencyMHz } }, use)),
      ),
    };
  }
}

export function* lower({ world, a, b }: RemedyCase, fault: LinkFault): Generator<Change> {
  const end = fault.radioId === a.radio.id ? a : b;
  yield {
    label: `Lower ${end.radio.name} to the structure's ${end.maxHeightM} m`,
    patches: radioPatches(world, { ...end.radio, heightM: end.maxHeightM }),
  };
}

export function* aligned({ world, a, b }: RemedyCase): Generator<Change> {
  yield {
    label: `Set ${b.radio.name} to ${a.radio.polarization}`,
    patches: radioPatches(world, { ...b.radio, polarization: a.radio.polarization }),
  };
  yield {
    label: `Set ${a.radio.name} to ${b.radio.polarization}`,
    patches: radioPatches(world, { ...a.radio, polarization: b.radio.polarization }),
  };
}

export function* turned(given: RemedyCase, fault: LinkFault): Generator<Change> {
  const { world } = given;
  const { end, other } = endsOf(given, fault);
  const azimuthDeg = Math.round(inverseGeodesic(end.place, other.place).azimuthDeg);
  yield {
    label: `Turn ${end.radio.name} to ${azimuthDeg}°`,
    patches: radioPatches(world, { ...end.radio, azimuthDeg }),
  };
}

/** Every change of one link's heights, power, antennas, width or sector that could help it, untried. */
export function* simpleChanges(
  world: World,
  link: Link,
  answer: LinkAnswer,
  profileBetween: ProfileSource,
): Generator<Change & { kind: "height" | "kit" | "elsewhere" }> {
  const given: RemedyCase = { world, link, ...linkEnds(world, link), answer, profileBetween };
  for (const candidate of higher(given)) yield { kind: "height", ...candidate };
  for (const candidate of stronger(given)) yield { kind: "kit", ...candidate };
  for (const candidate of elsewhere(given)) yield { kind: "elsewhere", ...candidate };
}
