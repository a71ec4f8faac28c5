import { endOf, linksOn, mergePatches, radioPatches, type Patch, type LinkEnd, type Radio, type World } from "../plan";
import { isChannelInBand } from "../radio";
import { ruleSetOf, type Rule, type RuleFlag, type RuleUse } from "../regulation";
import { counted } from "../words";
import { powerWithinCapDbm } from "../kit";

/** The ends that share an access point's or bridge's channel, itself first. */
function groupEnds(world: World, aRadioId: string): LinkEnd[] {
  const ids = new Set([aRadioId, ...linksOn(world, aRadioId).map(({ bRadioId }) => bRadioId)]);
  return [...ids].map((id) => endOf(world, id));
}

/** Each radio model and antenna that such a group uses, once: of hundreds of customers most have the same. */
function groupKit(world: World, aRadioId: string): Pick<LinkEnd, "model" | "antenna">[] {
  const kit = new Map<string, Pick<LinkEnd, "model" | "antenna">>();
  const add = (id: string) => {
    const { radioModelId, antennaModelId } = world.radios.get(id)!;
    const key = `${radioModelId} ${antennaModelId}`;
    if (!kit.has(key)) {
      const { model, antenna } = endOf(world, id);
      kit.set(key, { model, antenna });
    }
  };
  add(aRadioId);
  for (const { bRadioId } of linksOn(world, aRadioId)) add(bRadioId);
  return [...kit.values()];
}

/** The patches that put an access point or bridge with all that talk to it on one channel, none of them over its cap there. */
export function groupOn(world: World, aRadioId: string, frequencyMHz: number, widthMHz: number): Patch[] {
  const isBridge = linksOn(world, aRadioId)[0]?.kind === "bridge";
  const { carrierId } = world.radios.get(aRadioId)!;
  const patches = groupEnds(world, aRadioId).flatMap(({ radio, model, antenna }) => {
    const row = { ...radio, carrierId, frequencyMHz, widthMHz };
    row.txPowerDbm = Math.min(
      radio.txPowerDbm,
      powerWithinCapDbm(world, { model, antenna, radio: row }, isBridge ? "ptp" : "ptmp"),
    );
    // The carrier moves with the near end; of most customers nothing else changes.
    const isMovedAlone = row.carrierId === radio.carrierId && row.txPowerDbm === radio.txPowerDbm;
    return isMovedAlone && radio.id !== aRadioId ? [] : radioPatches(world, row);
  });
  return mergePatches([], patches);
}

/** Channels of a width on which all of a group's kit can stand, by the rule set's stretches, from the lowest up. */
export function groupChannelsMHz(world: World, aRadioId: string, widthMHz: number): number[] {
  const kit = groupKit(world, aRadioId);
  const isBridge = linksOn(world, aRadioId)[0]?.kind === "bridge";
  return channelsMHz(world, isBridge ? "ptp" : "ptmp", widthMHz).filter((centre) =>
    kit.every(
      ({ model, antenna }) =>
        model.widthsMHz.includes(widthMHz) &&
        isChannelInBand(model, centre, widthMHz) &&
        centre >= antenna.bandMHz[0] &&
        centre <= antenna.bandMHz[1],
    ),
  );
}

/** A stretch of spectrum that rules and kit leave open. */
export interface OpenStretch {
  lowMHz: number;
  highMHz: number;
  /** What the rule asks there beyond its caps, and who may use it. */
  flags: readonly RuleFlag[];
  licence: Rule["licence"];
}

/** Stretches of spectrum in which all of a group's kit may stand with a width, by the rule set, from the lowest up. */
export function groupStretches(world: World, aRadioId: string, widthMHz: number): OpenStretch[] {
  const kit = groupKit(world, aRadioId);
  if (!kit.every(({ model }) => model.widthsMHz.includes(widthMHz))) return [];
  const use = linksOn(world, aRadioId)[0]?.kind === "bridge" ? "ptp" : "ptmp";
  const low = Math.max(...kit.flatMap(({ model, antenna }) => [model.bandMHz[0], antenna.bandMHz[0] - widthMHz / 2]));
  const high = Math.min(...kit.flatMap(({ model, antenna }) => [model.bandMHz[1], antenna.bandMHz[1] + widthMHz / 2]));
  const stretches = ruleSetOf(world.plan)
    .rules.filter((rule) => isOpenOutdoors(rule, use, widthMHz))
    .map(({ bandMHz, flags, licence }): OpenStretch => ({
      ...{ lowMHz: Math.max(low, bandMHz[0]), highMHz: Math.min(high, bandMHz[1]) },
      ...{ flags, licence },
    }))
    .filter(({ lowMHz, highMHz }) => highMHz - lowMHz >= widthMHz)
    .sort((x, y) => x.lowMHz - y.lowMHz);
  return stretches.filter(
    (own, i) =>
      !stretches.some(
        (other, k) =>
          other.lowMHz <= own.lowMHz &&
          other.highMHz >= own.highMHz &&
          (other.lowMHz < own.lowMHz || other.highMHz > own.highMHz || k < i),
      ),
  );
}

/** Whether a rule opens its band to a use and a width outdoors: what sites carry stands outdoors. */
const isOpenOutdoors = ({ use: ruled, widthsMHz, flags }: Rule, use: RuleUse, widthMHz: number): boolean =>
  (ruled === "any" || ruled === use) &&
  (widthsMHz.length === 0 || widthsMHz.includes(widthMHz)) &&
  !flags.includes("indoorOnly");

/** The grid on which channels are laid where a rule leaves their centres free, MHz. */
const FREE_GRID_MHZ = 5;

/**
 * Channels side by side through every stretch that the rules open outdoors to a use. Each centre lies on its rule's raster, counted from
 * the band's lower edge: channels narrower than two steps of it have centres of their own, not the halves of wider ones.
 */
export function channelsMHz(world: World, use: RuleUse, widthMHz: number): number[] {
  const centres = new Set<number>();
  for (const rule of ruleSetOf(world.plan).rules) {
    if (!isOpenOutdoors(rule, use, widthMHz)) continue;
    const [low, high] = rule.bandMHz;
    const { rasterMHz } = rule;
    const onRaster = (mhz: number) => (rasterMHz === null ? mhz : low + Math.ceil((mhz - low) / rasterMHz) * rasterMHz);
    const stepMHz = rasterMHz === null ? widthMHz : Math.ceil(widthMHz / rasterMHz) * rasterMHz;
    const edge = rasterMHz === null ? Math.ceil(low / FREE_GRID_MHZ) * FREE_GRID_MHZ : low;
    for (let centre = onRaster(edge + widthMHz / 2); centre + widthMHz / 2 <= high; centre += stepMHz)
      centres.add(centre);
  }
  return [...centres].sort((x, y) => x - y);
}

/** A radio's name with those that follow it: "North sector and its 6 customers". */
export function groupName(world: World, aRadioId: string): string {
  const radio: Radio | undefined = world.radios.get(aRadioId);
  const links = linksOn(world, aRadioId);
  if (links[0]?.kind === "bridge") return `both ends of ${radio?.name ?? "the bridge"}`;
  return `${radio?.name ?? "the sector"} and its ${counted(links.length, "customer")}`;
}
