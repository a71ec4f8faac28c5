import type { Radio, Site, World } from "../plan";

/** Voltage that each kind of power is made from at a site that lives on a battery, V. */
const RAIL_V: Readonly<Record<Exclude<Radio["injector"], "none">, number>> = {
  ...{ passive24: 24, "802.3af": 48, "802.3at": 48, "802.3bt": 48, dc48: 48 },
};
/** What a converter from one direct voltage to another gives of what it takes. */
const CONVERTER_EFFICIENCY = 0.9;

/** One voltage that a site's radios are fed with. */
interface Rail {
  volts: number;
  radios: number;
  loadW: number;
  /** What a converter between the battery and it takes for itself, W; 0 where the battery has that voltage. */
  converterW: number;
}

/** Voltages that the radios of a site need, lowest first, each with whether its battery has it. */
export function railsOf(world: World, site: Site, radios: readonly Pick<Radio, "radioModelId">[]): Rail[] {
  const rails = new Map<number, Rail>();
  for (const { radioModelId } of radios) {
    const model = world.radioModels.get(radioModelId);
    if (!model) continue;
    const volts = RAIL_V[model.powerInput];
    const rail = rails.get(volts) ?? { volts, radios: 0, loadW: 0, converterW: 0 };
    const loadW = rail.loadW + model.loadW;
    const converterW = volts === site.batteryV ? 0 : loadW / CONVERTER_EFFICIENCY - loadW;
    rails.set(volts, { volts, radios: rail.radios + 1, loadW, converterW });
  }
  return [...rails.values()].sort((x, y) => x.volts - y.volts);
}

/** What all converters of a site take for themselves, W. */
export const convertersW = (world: World, site: Site, radios: readonly Pick<Radio, "radioModelId">[]): number =>
  railsOf(world, site, radios).reduce((sum, { converterW }) => sum + converterW, 0);
