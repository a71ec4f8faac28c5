import type { AntennaModel } from "../../antenna";
import { antennasFor, powerSparingDbm, powerWithinCapDbm } from "../../kit";
import { quietestChannelMHz } from "../../propose";
import type { Place } from "../../geodesy";
import { answerLink, type LinkAnswer } from "../../link";
import type { Link, LinkEnd, Radio, World } from "../../plan";
import { USUAL } from "../../plan";
import { isChannelInBand, type RadioModel } from "../../radio";
import { ruleSetOf } from "../../regulation";
import type { Profile } from "../../terrain";

/** Radios and antennas that could stand at the two ends. */
export interface Kit {
  aModel: RadioModel;
  bModel: RadioModel;
  aAntennas: AntennaModel[];
  bAntennas: AntennaModel[];
  use: "ptp" | "ptmp";
  /** Both ends carry the same antenna. */
  isPair: boolean;
}

/** Combinations of radios that could stand at the two ends, by role, in one band. */
export function kitsFor(world: World, link: Link, lowMHz: number, highMHz: number): Kit[] {
  const inBand = (band: readonly [number, number]) => band[0] < highMHz && band[1] > lowMHz;
  const models = (role: Radio["role"]) =>
    [...world.radioModels.values()].filter((model) => model.use === role && inBand(model.bandMHz));
  const antennas = (role: Radio["role"], model: RadioModel) =>
    antennasFor(world, role, (Math.max(model.bandMHz[0], lowMHz) + Math.min(model.bandMHz[1], highMHz)) / 2, model);
  const bridges: Kit[] = models("bridge").map((model) => {
    const list = antennas("bridge", model);
    return { aModel: model, bModel: model, aAntennas: list, bAntennas: list, use: "ptp", isPair: true };
  });
  const access = models("sector").flatMap((aModel) =>
    models("subscriber").map((bModel): Kit => {
      const list = antennas("subscriber", bModel);
      const isBridge = link.kind === "bridge";
      return {
        aModel,
        bModel,
        aAntennas: isBridge ? list : antennas("sector", aModel),
        bAntennas: list,
        use: isBridge ? "ptp" : "ptmp",
        isPair: isBridge,
      };
    }),
  );
  const [first, second] = link.kind === "bridge" ? [bridges, access] : [access, bridges];
  return first.length > 0 ? first : second;
}

/** Channel centres worth trying: the link's own, the middle of each rule's part of the band on the radio's raster, and the quietest. */
function centresFor(
  world: World,
  kit: Kit,
  ownMHz: number,
  widthMHz: number,
  places: readonly Place[],
  quiet: Map<string, number>,
): number[] {
  const low = Math.max(kit.aModel.bandMHz[0], kit.bModel.bandMHz[0]);
  const high = Math.min(kit.aModel.bandMHz[1], kit.bModel.bandMHz[1]);
  const raster = kit.aModel.rasterMHz;
  const centres = new Set<number>();
  const add = (from: number, to: number) => {
    if (to - from < widthMHz) return;
    const middle = from + Math.round((to - from) / 2 / raster) * raster;
    centres.add(Math.min(to - widthMHz / 2, Math.max(from + widthMHz / 2, middle)));
  };
  if (ownMHz - widthMHz / 2 >= low && ownMHz + widthMHz / 2 <= high) centres.add(ownMHz);
  const rules = ruleSetOf(world.plan).rules.filter(({ bandMHz }) => bandMHz[0] < high && bandMHz[1] > low);
  for (const { bandMHz } of rules) add(Math.max(low, bandMHz[0]), Math.min(high, bandMHz[1]));
  if (rules.length === 0) add(low, high);
  const antenna = kit.aAntennas[0];
  const preferred = [...centres][0];
  if (antenna && preferred !== undefined) {
    // Asked once for each radio and width, whatever stands at the far end.
    const key = `${kit.aModel.id} ${widthMHz} ${kit.use}`;
    const channel =
      quiet.get(key) ?? quietestChannelMHz(world, places, { model: kit.aModel, antenna }, widthMHz, preferred, kit.use);
    quiet.set(key, channel);
    centres.add(channel);
  }
  return [...centres].filter((centre) => isChannelInBand(kit.aModel, centre, widthMHz));
}

/** An end with other kit on another channel, at the power that the caps leave. */
function endWith(
  world: World,
  end: LinkEnd,
  model: RadioModel,
  antenna: AntennaModel,
  channel: { frequencyMHz: number; widthMHz: number },
  use: Kit["use"],
): LinkEnd {
  const radio: Radio = {
    ...end.radio,
    ...channel,
    role: model.use === "bridge" ? "bridge" : end.radio.role,
    radioModelId: model.id,
    antennaModelId: antenna.id,
    polarization: model.chains === 1 ? "V" : "HV",
    injector: model.powerInput,
    ...USUAL.radios,
    // A narrower antenna at a fixed direction would miss: what stands alone is aimed.
    azimuthDeg: use === "ptp" ? null : end.radio.azimuthDeg,
    tiltDownDeg: use === "ptp" ? null : end.radio.tiltDownDeg,
  };
  radio.txPowerDbm = powerWithinCapDbm(world, { model, antenna, radio }, use);
  return { ...end, radio, model, antenna };
}

/** One way to use a band between two ends, answered as if nobody else sent. */
export interface Way {
  a: LinkEnd;
  b: LinkEnd;
  answer: LinkAnswer;
  costEur: number;
  kit: Kit;
}

const price = ({ model, antenna }: LinkEnd) => model.priceEur + antenna.priceEur;

/** Every combination of kit, width and channel with which `link` could use a band, as if nobody else sent. */
export function waysIn(
  world: World,
  link: Link,
  ends: { a: LinkEnd; b: LinkEnd },
  profile: Profile,
  band: { lowMHz: number; highMHz: number },
): Way[] {
  const ways: Way[] = [];
  const quiet = new Map<string, number>();
  const places = [ends.a.place, ends.b.place];
  for (const kit of kitsFor(world, link, band.lowMHz, band.highMHz)) {
    const rangeM = Math.min(kit.aModel.rangeLimitKm, kit.bModel.rangeLimitKm) * 1000;
    const widths = kit.aModel.widthsMHz.filter((width) => kit.bModel.widthsMHz.includes(width));
    for (const widthMHz of widths)
      for (const frequencyMHz of centresFor(world, kit, ends.a.radio.frequencyMHz, widthMHz, places, quiet))
        for (const aAntenna of kit.aAntennas)
          for (const bAntenna of kit.isPair ? [aAntenna] : kit.bAntennas) {
            const channel = { frequencyMHz, widthMHz };
            const a = endWith(world, ends.a, kit.aModel, aAntenna, channel, kit.use);
            const b = endWith(world, ends.b, kit.bModel, bAntenna, channel, kit.use);
            const way = answered(world, link, kit, a, b, profile);
            if (way.answer.path && way.answer.distanceM <= rangeM) ways.push(way);
          }
  }
  return ways;
}

/** Two ends with their answer; what would be too strong for the far end is turned down first, as a crew would. */
function answered(world: World, link: Link, kit: Kit, a: LinkEnd, b: LinkEnd, profile: Profile): Way {
  const ask = (nearEnd: LinkEnd, farEnd: LinkEnd): Way => ({
    a: nearEnd,
    b: farEnd,
    kit,
    costEur: price(nearEnd) + price(farEnd),
    answer: answerLink({
      plan: world.plan,
      kind: kit.use === "ptp" ? "bridge" : "access",
      foliageDepthM: link.foliageDepthM,
      a: nearEnd,
      b: farEnd,
      profile,
    }),
  });
  const way = ask(a, b);
  const { path } = way.answer;
  if (!path || path.aToB.overloadDb + path.bToA.overloadDb <= 0) return way;
  const sparing = (end: LinkEnd, overloadDb: number): LinkEnd => ({
    ...end,
    radio: { ...end.radio, txPowerDbm: powerSparingDbm(end, overloadDb) },
  });
  return ask(sparing(a, path.aToB.overloadDb), sparing(b, path.bToA.overloadDb));
}
