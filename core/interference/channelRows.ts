import type { LinkAnswer } from "../link";
import { endOf, type World } from "../plan";
import { channelNoise } from "../spectrum";
import { inverseGeodesic } from "../geodesy";

/** What the scans say of one radio's channel. */
export interface ChannelRow {
  radioId: string;
  radio: string;
  site: string;
  frequencyMHz: number;
  widthMHz: number;
  headingDeg: number;
  /** Noise in the channel as scanned, dBm; null where no scan speaks for it. */
  powerDbm: number | null;
  scanId: string | null;
  /** The noise floor on the tape of its link, dBm. */
  floorDbm: number | null;
}

/** Every radio on a site with the noise that its newest fitting scan heard, noisiest first. */
export function channelRows(world: World, answers: ReadonlyMap<string, LinkAnswer>): ChannelRow[] {
  const rows: ChannelRow[] = [];
  for (const radio of world.radios.values()) {
    if (radio.siteId === null) continue;
    const end = endOf(world, radio.id);
    const link = [...world.links.values()].find(
      ({ aRadioId, bRadioId }) => aRadioId === radio.id || bRadioId === radio.id,
    );
    const otherId = link && (link.aRadioId === radio.id ? link.bRadioId : link.aRadioId);
    const headingDeg =
      radio.azimuthDeg ?? (otherId ? inverseGeodesic(end.place, endOf(world, otherId).place).azimuthDeg : 0);
    const noise = channelNoise(end.scans, { ...radio, headingDeg });
    const path = link ? answers.get(link.id)?.path : null;
    const tape = path && (link!.aRadioId === radio.id ? path.bToA : path.aToB);
    rows.push({
      radioId: radio.id,
      radio: radio.name,
      site: end.placeName,
      frequencyMHz: radio.frequencyMHz,
      widthMHz: radio.widthMHz,
      headingDeg,
      powerDbm: noise?.powerDbm ?? null,
      scanId: noise?.scan.id ?? null,
      floorDbm: tape?.noiseDbm ?? null,
    });
  }
  return rows.sort((x, y) => (y.powerDbm ?? -999) - (x.powerDbm ?? -999));
}
