import { channelGroups } from "#core/channels";
import { endOf, type World } from "#core/plan";
import { groupStretchesMHz } from "#core/propose";

/** One row of the comb: an access point or a bridge, with all that share its channel. */
export interface CombRow {
  radioId: string;
  name: string;
  siteId: string;
  site: string;
  isBridge: boolean;
  headingDeg: number | null;
  frequencyMHz: number;
  widthMHz: number;
  rasterMHz: number;
  links: number;
  /** Stretches of spectrum that the rules and all of its kit allow, MHz. */
  openMHz: [low: number, high: number][];
}

/** A stretch of spectrum that the same radios share. */
export interface CombBand {
  name: string;
  lowMHz: number;
  highMHz: number;
  rows: CombRow[];
}

/** Rows of a plan by band, in each by mast and then by heading. */
export function combBands(world: World): CombBand[] {
  const rows = channelGroups(world).map((radioId): CombRow => {
    const { radio, model, placeName } = endOf(world, radioId);
    const { name, frequencyMHz, widthMHz } = radio;
    return {
      ...{ radioId, name, siteId: radio.siteId ?? "", site: placeName, isBridge: radio.role === "bridge" },
      ...{ headingDeg: radio.azimuthDeg, frequencyMHz, widthMHz, rasterMHz: model.rasterMHz },
      links: [...world.links.values()].filter(({ aRadioId }) => aRadioId === radioId).length,
      openMHz: groupStretchesMHz(world, radioId, widthMHz),
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

function spanOf({ frequencyMHz, widthMHz, openMHz }: CombRow): [number, number] {
  const own = [frequencyMHz - widthMHz / 2, frequencyMHz + widthMHz / 2];
  const all = [...openMHz.flat(), ...own];
  return [Math.min(...all), Math.max(...all)];
}
