import { channelGroups, groupSites } from "#core/channels";
import { linksOn, endOf, type World } from "#core/plan";
import { inverseGeodesic } from "#core/geodesy";
import { groupStretches, type OpenStretch } from "#core/propose";

/** One row of the comb: an access point or a bridge, with all that share its channel. */
export interface CombRow {
  radioId: string;
  name: string;
  siteId: string;
  /** Every mast on which it has an antenna: a bridge on two. */
  siteIds: string[];
  site: string;
  isBridge: boolean;
  headingDeg: number | null;
  /** Where it listens: its heading, or a bridge's far end; null all round. */
  looksDeg: number | null;
  frequencyMHz: number;
  widthMHz: number;
  rasterMHz: number;
  links: number;
  timingGroup: string;
  /** Stretches of spectrum that the rules and all of its kit allow. */
  open: OpenStretch[];
}

/** A stretch of spectrum that the same radios share. */
export interface CombBand {
  name: string;
  lowMHz: number;
  highMHz: number;
  rows: CombRow[];
}

/**
 * Rows of a plan by band, in each by mast and then by heading. What is open to each is taken from `known` rows where the width is the same: it
 * depends on the kit of everybody on the channel, and stays while a channel is dragged.
 */
export function combBands(world: World, known: readonly CombBand[] = []): CombBand[] {
  const before = new Map(known.flatMap(({ rows }) => rows).map((row) => [row.radioId, row]));
  const rows = channelGroups(world).map((radioId): CombRow => {
    const { radio, model, place, placeName } = endOf(world, radioId);
    const { name, frequencyMHz, widthMHz, timingGroup = "" } = radio;
    const isBridge = radio.role === "bridge";
    const links = linksOn(world, radioId);
    const far = isBridge && links[0] ? endOf(world, links[0].bRadioId).place : null;
    return {
      ...{
        radioId,
        name,
        siteId: radio.siteId ?? "",
        siteIds: groupSites(world, radioId),
        site: placeName,
        isBridge,
        timingGroup,
      },
      ...{ headingDeg: radio.azimuthDeg, frequencyMHz, widthMHz, rasterMHz: model.rasterMHz },
      looksDeg: radio.azimuthDeg ?? (far && inverseGeodesic(place, far).azimuthDeg),
      links: links.length,
      open:
        before.get(radioId)?.widthMHz === widthMHz
          ? before.get(radioId)!.open
          : groupStretches(world, radioId, widthMHz),
    };
  });
  const bands: CombBand[] = [];
  for (const row of rows.sort((x, y) => spanOf(x)[0] - spanOf(y)[0])) {
    const [lowMHz, highMHz] = spanOf(row);
    const last = bands.at(-1);
    if (last && lowMHz <= last.highMHz) {
      last.rows.push(row);
      last.highMHz = Math.max(last.highMHz, highMHz);
    } else bands.push({ name: "", lowMHz, highMHz, rows: [row] });
  }
  for (const band of bands) {
    band.name = `${(band.lowMHz / 1000).toFixed(2)} to ${(band.highMHz / 1000).toFixed(2)} GHz`;
    band.rows.sort(
      (x, y) =>
        x.site.localeCompare(y.site) ||
        Number(x.isBridge) - Number(y.isBridge) ||
        (x.headingDeg ?? 0) - (y.headingDeg ?? 0),
    );
  }
  return bands;
}

/** Other channels that are sent from a mast on which a row has an antenna. */
export const mastMates = (band: CombBand, { radioId, siteIds }: CombRow): CombRow[] =>
  band.rows.filter((other) => other.radioId !== radioId && other.siteIds.some((id) => siteIds.includes(id)));

/** The channel of the same mast that stands nearest to a row's own, and how far, edge to edge; null for a mast with one channel. */
export function nearestOnMast(band: CombBand, row: CombRow): { other: CombRow; apartMHz: number } | null {
  const apartMHz = (other: CombRow) =>
    Math.abs(other.frequencyMHz - row.frequencyMHz) - (other.widthMHz + row.widthMHz) / 2;
  return mastMates(band, row)
    .map((other) => ({ other, apartMHz: apartMHz(other) }))
    .reduce<{ other: CombRow; apartMHz: number } | null>(
      (nearest, one) => (nearest && nearest.apartMHz <= one.apartMHz ? nearest : one),
      null,
    );
}

function spanOf({ frequencyMHz, widthMHz, open }: CombRow): [number, number] {
  const own = [frequencyMHz - widthMHz / 2, frequencyMHz + widthMHz / 2];
  const all = [...open.flatMap(({ lowMHz, highMHz }) => [lowMHz, highMHz]), ...own];
  return [Math.min(...all), Math.max(...all)];
}
