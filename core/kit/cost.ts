import type { World } from "../plan";

/** What all radios of a plan and their antennas cost, EUR. */
export function costOf(world: World): number {
  let sum = 0;
  for (const radio of world.radios.values()) {
    sum +=
      (world.radioModels.get(radio.radioModelId)?.priceEur ?? 0) +
      (world.antennaModels.get(radio.antennaModelId)?.priceEur ?? 0);
  }
  return sum;
}
