import { accessPoints, homeSiteOf, networkFor, parsedSubnet } from "../addressing";
import type { Radio, World } from "../plan";
import { powerToSet, type PowerToSet } from "../radio";
import { ruleSetOf } from "../regulation";
import { figure } from "../words";

/** What a device is set to, by the words that devices answer with. */
export interface DeviceSettings {
  name: string;
  /** Bridges keep the channel at their near end; the far end follows. */
  mode: "access point" | "client" | "bridge near end" | "bridge far end";
  /** What the radios of one carrier call their network. */
  network: string;
  region: string;
  /** With its prefix length: 10.44.3.7/24. */
  address: string;
  gateway: string;
  /** Tag of its network on the wire; 0 for none. */
  vlan: number;
  frequencyMHz: number;
  widthMHz: number;
  /** The number to set its power to: `powerOf` says whether of each chain or of all together. */
  txPowerDbm: number;
  /** Share of the frame toward customers; null where the radio decides. */
  downShare: number | null;
  timingGroup: string;
}

/** One device as the plan wants it. */
export interface ConfigSheet {
  radioId: string;
  model: string;
  placeName: string;
  settings: DeviceSettings;
  /** Which power the number in its settings is. */
  powerOf: PowerToSet["of"];
  /** Under this name the key of its network is kept; the key itself stands on no sheet. */
  keyRef: string;
  /** And its own password under this one. */
  passwordRef: string;
  /** The version that it must have: its access point's or near end's; empty where any will do. */
  firmware: string;
}

/** What each setting is called. */
export const SETTING_WORDS: Record<keyof DeviceSettings, string> = {
  name: "Name",
  mode: "Mode",
  network: "Network name",
  region: "Rules",
  address: "Address",
  gateway: "Gateway",
  vlan: "VLAN",
  frequencyMHz: "Channel, MHz",
  widthMHz: "Width, MHz",
  txPowerDbm: "Power to set, dBm",
  downShare: "Share of the frame toward customers",
  timingGroup: "Timing group",
};

/** What a setting of one device is called: its power with the chains that it counts. */
export const settingWord = (setting: keyof DeviceSettings, { powerOf }: Pick<ConfigSheet, "powerOf">): string =>
  setting === "txPowerDbm" && powerOf !== "one chain"
    ? `${SETTING_WORDS.txPowerDbm}, ${powerOf}`
    : SETTING_WORDS[setting];

/** A setting as a person reads it. */
export function settingText(value: string | number | null): string {
  if (value === null) return "left to the radio";
  if (typeof value === "number") return figure(value, 3).replace(/\.?0+$/, "");
  return value === "" ? "none" : value;
}

/** Radios by the device that they are staged with: a client's access point, a far end's near end. Access points and near ends have none. */
export function leaders(world: World): Map<string, string> {
  const found = new Map<string, string>();
  for (const { aRadioId, bRadioId } of world.links.values()) found.set(bRadioId, aRadioId);
  return found;
}

/** What is looked up once for all sheets of a plan. */
export interface SheetContext {
  apOf: ReadonlyMap<string, string>;
  leaderOf: ReadonlyMap<string, string>;
}
export const sheetContext = (world: World): SheetContext => ({ apOf: accessPoints(world), leaderOf: leaders(world) });

function modeOf({ id, role }: Radio, { leaderOf }: SheetContext): DeviceSettings["mode"] {
  if (role === "sector") return "access point";
  if (role === "subscriber") return "client";
  return leaderOf.has(id) ? "bridge far end" : "bridge near end";
}

/** The device that keeps a radio's channel, whose name its network bears. */
const keeperOf = (world: World, radio: Radio, { leaderOf }: SheetContext): Radio =>
  world.radios.get(leaderOf.get(radio.id) ?? "") ?? radio;

/** A name that every radio takes for a network: letters, digits and hyphens, 32 at the most. */
export function networkName(text: string): string {
  const plain = text
    .normalize("NFKD")
    .replace(/[\u0300-\u036f]/g, "")
    .replace(/[^A-Za-z0-9]+/g, "-")
    .replace(/^-+|-+$/g, "");
  return plain.slice(0, 32) || "network";
}

/** The sheet of one radio. Throws RangeError for a radio that is not in the plan. */
export function configSheet(world: World, radioId: string, context: SheetContext): ConfigSheet {
  const radio = world.radios.get(radioId);
  if (!radio) throw new RangeError(`radio ${radioId} is not in the plan`);
  const model = world.radioModels.get(radio.radioModelId);
  const keeper = keeperOf(world, radio, context);
  const site = world.sites.get(homeSiteOf(world, radio, context.apOf) ?? "");
  const network = site ? networkFor(site, radio.role) : { subnet: "", gateway: "", vlan: 0 };
  const subnet = parsedSubnet(network.subnet);
  const power = model
    ? powerToSet(model, radio.polarization, radio.txPowerDbm)
    : ({ dbm: radio.txPowerDbm, of: "all chains together" } as const);
  const place = world.sites.get(radio.siteId ?? "") ?? world.subscribers.get(radio.subscriberId ?? "");
  return {
    radioId,
    model: model ? `${model.maker} ${model.model}` : radio.radioModelId,
    placeName: place?.name ?? "",
    settings: {
      name: radio.name,
      mode: modeOf(radio, context),
      network: networkName(keeper.name),
      region: ruleSetOf(world.plan).name,
      address: radio.address !== "" && subnet ? `${radio.address}/${subnet.length}` : radio.address,
      gateway: network.gateway,
      vlan: network.vlan,
      frequencyMHz: radio.frequencyMHz,
      widthMHz: radio.widthMHz,
      txPowerDbm: power.dbm,
      downShare: radio.downShare ?? null,
      timingGroup: radio.timingGroup ?? "",
    },
    powerOf: power.of,
    keyRef: `network:${keeper.carrierId}`,
    passwordRef: `device:${radioId}`,
    firmware: keeper.firmware,
  };
}

/** One setting that a device has otherwise than its sheet. */
interface SheetDifference {
  setting: keyof DeviceSettings;
  wanted: string | number | null;
  found: string | number | null;
}

/** Where what a device reports differs from what the plan wants, in the order of the sheet. */
export function sheetDifferences(wanted: DeviceSettings, found: Partial<DeviceSettings>): SheetDifference[] {
  return (Object.keys(SETTING_WORDS) as (keyof DeviceSettings)[]).flatMap((setting) => {
    const [want, has = null] = [wanted[setting], found[setting]];
    return want === has ? [] : [{ setting, wanted: want, found: has }];
  });
}
