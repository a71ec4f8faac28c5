import { peakGainDbi, type AntennaModel } from "../antenna";
import { antennasFor, powerWithinCapDbm, radioModelsFor } from "../kit";
import { radiosBySite, type Radio, type World } from "../plan";
import type { RadioModel } from "../radio";
import { ruleUse } from "../regulation";

/**
 * How a new radio stands before anybody turns it: on two polarizations, without a cable between radio and antenna, and for masks over the sky
 * as if it looked up by as much as a path among hills may: once it is aimed it must not pass its cap.
 */
export const UNTURNED = { cableLossDb: 0, polarization: "HV", tiltDownDeg: -12 } as const;

/** An antenna on a channel, with what the caps leave its radio to send. */
export interface Sending {
  antenna: AntennaModel;
  gainDbi: number;
  powerDbm: number;
}

/** A radio of the library for some role, with the antennas that can go with it, cheapest first. */
export interface Kit {
  model: RadioModel;
  widthMHz: number;
  antennas: readonly [AntennaModel, ...AntennaModel[]];
  /** The same antennas on a frequency. */
  sendingOn: (frequencyMHz: number) => readonly [Sending, ...Sending[]];
}

/** What every proposal in one world comes back to, each part looked up once: made for whoever asks about many places. */
export interface Choosing {
  radiosAt: (siteId: string) => readonly Radio[];
  /** The first kit for a role and frequency, of a width or of the usual one; null where the library has none. */
  kitFor: (role: Radio["role"], frequencyMHz: number, widthMHz?: number) => Kit | null;
}

export function choosingIn(world: World): Choosing {
  const known = new Map<Radio["role"], Map<number, Map<number | undefined, Kit | null>>>();
  let bySite: ReadonlyMap<string, readonly Radio[]> | null = null;
  return {
    radiosAt: (siteId) => (bySite ??= radiosBySite(world)).get(siteId) ?? [],
    kitFor: (role, frequencyMHz, widthMHz) => {
      let ofRole = known.get(role);
      if (!ofRole) known.set(role, (ofRole = new Map()));
      let onChannel = ofRole.get(frequencyMHz);
      if (!onChannel) ofRole.set(frequencyMHz, (onChannel = new Map()));
      let kit = onChannel.get(widthMHz);
      if (kit === undefined) onChannel.set(widthMHz, (kit = firstKit(world, role, frequencyMHz, widthMHz)));
      return kit;
    },
  };
}

function firstKit(world: World, role: Radio["role"], frequencyMHz: number, widthMHz?: number): Kit | null {
  const model = radioModelsFor(world, role, frequencyMHz).find(
    (one) => widthMHz === undefined || one.widthsMHz.includes(widthMHz),
  );
  if (!model) return null;
  const fitting = antennasFor(world, role, frequencyMHz, model);
  // A new sector is turned to its first customer: what cannot be turned hears everybody and is the last resort.
  const turnable = fitting.filter(({ shape }) => shape !== "omni");
  const [cheapest, ...others] = role === "sector" && turnable.length > 0 ? turnable : fitting;
  if (!cheapest) return null;
  const usedMHz = widthMHz ?? (model.widthsMHz.includes(20) ? 20 : model.widthsMHz[0]!);
  const sending = new Map<number, readonly [Sending, ...Sending[]]>();
  return {
    model,
    widthMHz: usedMHz,
    antennas: [cheapest, ...others],
    sendingOn: (onMHz) => {
      let all = sending.get(onMHz);
      if (!all) {
        const on = { frequencyMHz: onMHz, widthMHz: usedMHz, ...UNTURNED };
        const use = ruleUse(role);
        const sends = (antenna: AntennaModel): Sending => ({
          antenna,
          gainDbi: peakGainDbi(antenna, onMHz),
          powerDbm: powerWithinCapDbm(world, { model, antenna, radio: on }, use),
        });
        sending.set(onMHz, (all = [sends(cheapest), ...others.map(sends)]));
      }
      return all;
    },
  };
}
