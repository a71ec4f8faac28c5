import { radiosBySite, type Part, type Radio, type Site, type World } from "../plan";
import { fedBySwitch } from "../power";
import { netRateMbps, boxHolds } from "../radio";
import { BILL_RULES } from "./rules";

/** One thing to be bought. */
export interface BillLine {
  /** Of the library. */
  itemId: string;
  name: string;
  kind: "radio" | "antenna" | Part["kind"];
  unit: "piece" | "m";
  /** What the plan uses, and what is bought beside it as a spare. */
  needed: number;
  spare: number;
  /** How it is sold, and how many packs that makes. */
  packOf: number;
  packs: number;
  /** From the order to the door; null where nobody knows. */
  deliveryDays: number | null;
  priceEur: number;
  /** Of what the plan uses, kg. */
  weightKg: number;
}

/** What is to be bought for some of a plan. */
export interface Bill {
  lines: BillLine[];
  priceEur: number;
  /** Of all that goes into the car, and of what of it is carried up: see `climbsKg`. */
  weightKg: number;
  climbKg: number;
  /** What the plan needs and the library has no part for, in words. */
  missing: string[];
}

/**
 * Everything that some radios and sites take: radios, antennas, brackets, cables cut from drums with their loops and slack, plugs, arresters
 * at both ends of what runs outdoors, injectors, what a fibre needs, panels and batteries, tapes and tools, with spares and in packs.
 */
export function billOf(
  world: World,
  radios: readonly Radio[] = [...world.radios.values()],
  sites: readonly Site[] = sitesOf(world, radios),
): Bill {
  const counts = new Map<string, number>();
  const missing = new Set<string>();
  const add = (itemId: string, count: number) => {
    if (count > 0) counts.set(itemId, (counts.get(itemId) ?? 0) + count);
  };
  const parts = [...world.parts.values()];
  const first = (kind: Part["kind"], fits: (part: Part) => boolean, what: string): string | null => {
    const found = parts.filter((part) => part.kind === kind && fits(part)).sort((x, y) => x.priceEur - y.priceEur)[0];
    if (!found) missing.add(what);
    return found?.id ?? null;
  };
  // Looked for once each: ten thousand radios ask for the same few.
  const known = new Map<string, string | null>();
  const addPart = (kind: Part["kind"], standard: string, count: number, what: string) => {
    const key = `${kind} ${standard}`;
    if (!known.has(key))
      known.set(
        key,
        first(kind, (part) => part.standard === standard, what),
      );
    const id = known.get(key);
    if (id) add(id, count);
  };
  const fed = fedBySwitches(world, radios);
  const addConverters = (neededMbps: number) => {
    const gigabits = Math.max(1, Math.ceil(neededMbps / 1000));
    const what = `media converters of ${gigabits} Gbit/s`;
    const id = first("converter", (part) => converterMbps(part) >= neededMbps, what);
    if (id) add(id, RUN_ENDS);
  };
  for (const radio of radios) {
    add(radio.radioModelId, 1);
    add(radio.antennaModelId, 1);
    if (radio.bracketId !== null) add(radio.bracketId, 1);
    addCable(
      radio,
      { hasInjector: fed.has(radio.id) || hasBoxedInjector(world, radio), chains: chainsOf(world, radio) },
      addPart,
    );
    if (radio.cableKind === "fibre") addConverters(topRateMbps(world, radio));
  }
  for (const site of sites) addSiteParts(world, site, radios, { add, addPart, parts, missing });
  for (const tape of parts.filter(({ kind }) => kind === "tape"))
    add(tape.id, Math.ceil(jointsOf(world, radios) / BILL_RULES.jointsPerTape));
  // A crew takes each tool once, whatever it puts up.
  if (radios.length > 0) for (const tool of parts.filter(({ kind }) => kind === "tool")) add(tool.id, 1);
  const lines = [...counts].flatMap(([itemId, needed]) => {
    const line = lineOf(world, itemId, needed);
    if (!line) missing.add(`the item ${itemId}`);
    return line ?? [];
  });
  lines.sort((x, y) => y.priceEur - x.priceEur || (x.name < y.name ? -1 : 1));
  const sum = (of: (line: BillLine) => number) => lines.reduce((total, line) => total + of(line), 0);
  return {
    lines,
    priceEur: sum(({ priceEur }) => priceEur),
    weightKg: sum(({ weightKg }) => weightKg),
    climbKg: sum(climbsKg),
    missing: [...missing],
  };
}

/** What a plan costs, EUR: its bill of materials, spares and packs included. */
export const costOf = (world: World): number => billOf(world).priceEur;

/** Ends of a run of cable, and of a jumper. */
const RUN_ENDS = 2;

/** Outdoor joints that are wrapped: where each radio's cable goes in, and both ends of each of its jumpers. */
const jointsOf = (world: World, radios: readonly Radio[]): number =>
  radios.reduce((sum, radio) => sum + 1 + (radio.jumperM > 0 ? RUN_ENDS * chainsOf(world, radio) : 0), 0);

/** Which of some radios the switches of their sites feed. */
function fedBySwitches(world: World, radios: readonly Radio[]): ReadonlySet<string> {
  const switched = sitesOf(world, radios).filter(({ switchPartId }) => switchPartId !== null);
  if (switched.length === 0) return NONE;
  const bySite = radiosBySite(world);
  return new Set(switched.flatMap((site) => fedBySwitch(world, site, bySite.get(site.id) ?? []).map(({ id }) => id)));
}

const NONE: ReadonlySet<string> = new Set();

/** What of a line is carried up a mast or a roof, kg: of arresters the half at the head, nothing of what stays at the foot. */
function climbsKg({ kind, weightKg }: BillLine): number {
  if (kind === "arrester") return weightKg / RUN_ENDS;
  return CLIMBS.has(kind) ? weightKg : 0;
}
const CLIMBS: ReadonlySet<BillLine["kind"]> = new Set([
  ...(["radio", "antenna", "bracket", "cable", "jumper", "connector", "tape", "tool"] as const),
]);

const sitesOf = (world: World, radios: readonly Radio[]): Site[] =>
  [...new Set(radios.flatMap(({ siteId }) => siteId ?? []))].flatMap((id) => world.sites.get(id) ?? []);

type AddPart = (kind: Part["kind"], standard: string, count: number, what: string) => void;

/** Whether a radio's box holds, under the plan's rules, the injector that it is planned with: that of its own kind of power. */
function hasBoxedInjector(world: World, { radioModelId, injector }: Radio): boolean {
  const model = world.radioModels.get(radioModelId);
  return model !== undefined && injector === model.powerInput && boxHolds(model, "injector", world.plan.ruleSetId);
}
const chainsOf = (world: World, { radioModelId }: Radio): number => world.radioModels.get(radioModelId)?.chains ?? 1;

/** The most that a radio carries in one direction on its channel, Mbit/s: what converters of its fibre must pass on. */
function topRateMbps(world: World, { radioModelId, widthMHz }: Radio): number {
  const model = world.radioModels.get(radioModelId);
  if (!model) return 0;
  const modulation = model.modulations.at(-1)!;
  return Math.max(
    ...(["down", "up"] as const).map((direction) =>
      netRateMbps({ radio: model, modulation, widthMHz, chains: model.chains, direction }),
    ),
  );
}

/** What a media converter passes on, Mbit/s, by its standard "10G"; one whose sheet does not say is taken for 1 Gbit/s. */
const converterMbps = ({ standard }: Part): number =>
  1000 * (/^(\d+)G$/.exec(standard) ? Number.parseInt(standard) : 1);

/** A radio's jumpers, and its run from its socket to the switch. `hasInjector` says that a box or a switch brings its power. */
function addCable(
  { ethernetM, indoorM, cableKind, injector, arresters, jumperM }: Radio,
  { hasInjector, chains }: { hasInjector: boolean; chains: number },
  addPart: AddPart,
): void {
  const { dripLoopM, slackShare } = BILL_RULES;
  const runM = Math.ceil((ethernetM + indoorM) * (1 + slackShare) + RUN_ENDS * dripLoopM);
  const isFibre = cableKind === "fibre";
  addPart("cable", cableKind, runM, `cable of kind ${cableKind}`);
  addPart("connector", isFibre ? "fibre" : "", isFibre ? RUN_ENDS : RUN_ENDS * 2, "plugs");
  if (!isFibre) addPart("arrester", "", arresters, "surge arresters");
  if (jumperM > 0) addPart("jumper", "", chains, "jumpers");
  if (injector !== "none" && !hasInjector) addPart("injector", injector, 1, `injector of kind ${injector}`);
}

/** Earth at a site, and on a solar one its panels, battery and controller. */
function addSiteParts(
  world: World,
  site: Site,
  radios: readonly Radio[],
  {
    add,
    addPart,
    parts,
    missing,
  }: {
    add: (itemId: string, count: number) => void;
    addPart: AddPart;
    parts: readonly Part[];
    missing: Set<string>;
  },
): void {
  const here = radios.filter(({ siteId }) => siteId === site.id);
  if (here.length === 0) return;
  addPart("earth", "", 1, "earth kit");
  const askedMm2 = earthMm2Of(world, here);
  const lead = parts
    .filter(({ standard, crossSectionMm2 }) => standard === "earth" && (crossSectionMm2 ?? askedMm2) >= askedMm2)
    // Those whose sheet does not tell how thick they are come last.
    .sort(
      (x, y) =>
        Number(x.crossSectionMm2 === null) - Number(y.crossSectionMm2 === null) ||
        x.priceEur / x.packOf - y.priceEur / y.packOf,
    )[0];
  if (lead) add(lead.id, Math.ceil(Math.max(...here.map(({ heightM }) => heightM)) + EARTH_LEAD_M));
  else missing.add(`an earth lead of ${askedMm2} mm²`);
  if (site.switchPartId !== null) add(site.switchPartId, 1);
  addPart("enclosure", "", 1, "enclosure");
  if (site.power !== "solar") return;
  const panel = parts.find(({ kind, watts }) => kind === "panel" && watts);
  if (panel) add(panel.id, Math.ceil(site.panelW / panel.watts!));
  else if (site.panelW > 0) missing.add("solar panels");
  const battery = parts.find(
    ({ kind, standard, volts, ampereHours }) =>
      kind === "battery" && standard === site.batteryKind && volts && ampereHours && volts <= site.batteryV,
  );
  if (battery)
    add(battery.id, Math.round(site.batteryV / battery.volts!) * Math.ceil(site.batteryAh / battery.ampereHours!));
  else if (site.batteryAh > 0) missing.add(`${site.batteryKind} batteries`);
  if (site.panelW > 0) addPart("charger", "", 1, "charge controller");
}
const EARTH_LEAD_M = 5;

/** The thickest earth lead that any of some radios asks for, mm². */
export const earthMm2Of = (world: World, radios: readonly Radio[]): number =>
  Math.max(0, ...radios.map(({ radioModelId }) => world.radioModels.get(radioModelId)?.earthMm2 ?? 0));

/** A line in packs, null for what the library does not hold: spares for what fails in the field, by the rule; none for what is cut or used up. */
function lineOf(world: World, itemId: string, needed: number): BillLine | null {
  const radio = world.radioModels.get(itemId);
  const antenna = world.antennaModels.get(itemId);
  const part = world.parts.get(itemId);
  const sheet = radio ?? antenna ?? part;
  if (!sheet) return null;
  const kind = radio ? "radio" : antenna ? "antenna" : part!.kind;
  const packOf = part?.packOf ?? 1;
  const isSpared = radio ? radio.use === "subscriber" : antenna ? antenna.receiveBeam !== null : SPARED.has(part!.kind);
  // Of each customer's radio at least one lies ready, and of an adaptive antenna one on the shelf.
  const spare = !isSpared ? 0 : antenna ? 1 : Math.max(1, Math.ceil(needed / BILL_RULES.sparesOneIn));
  const packs = Math.ceil((needed + spare) / packOf);
  return {
    ...{ itemId, kind, needed, spare, packOf, packs, deliveryDays: sheet.deliveryDays },
    name: `${sheet.maker} ${sheet.model}`,
    unit: part?.unit ?? "piece",
    priceEur: packs * sheet.priceEur,
    weightKg: needed * sheet.weightKg,
  };
}
const SPARED: ReadonlySet<string> = new Set(["injector", "arrester"]);
