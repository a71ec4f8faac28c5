import { hearingKm, peakGainDbi } from "../antenna";
import { endOf, type Radio, type World } from "../plan";
import { thermalNoiseDbm } from "../propagation";
import { clientEnd, usualClient } from "./budget";

/**
 * How much farther a sector hears than it needs to: receive gain cannot be turned down, and whatever stands out there at a customer's
 * power is noise to it. Null where the library has no customer's kit for it, or nobody is served.
 */
export function reachWords(world: World, sector: Radio, farthestM: number | null): string | null {
  const kit = usualClient(world, sector);
  if (!kit || farthestM === null) return null;
  const { radio, antenna } = clientEnd(world, sector, kit);
  const near = endOf(world, sector.id);
  const { frequencyMHz, widthMHz } = sector;
  const km = hearingKm(near.antenna, 0, {
    eirpDbm: radio.txPowerDbm + peakGainDbi(antenna, frequencyMHz),
    noiseDbm: thermalNoiseDbm({ bandwidthMHz: widthMHz, noiseFigureDb: near.model.noiseFigureDb }),
    frequencyMHz,
  });
  const gain = peakGainDbi(near.antenna, frequencyMHz, sector.polarization).toFixed(0);
  return `${gain} dBi hear a customer’s transmitter that looks here out to ${km.toFixed(0)} km in free sight; the cell ends at ${(farthestM / 1000).toFixed(1)} km.`;
}
