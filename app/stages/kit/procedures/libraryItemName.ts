import type { World } from "#core/plan";

/** What a radio, antenna or part of the library is called; its id where the library has lost it. */
export function libraryItemName(world: World, id: string): string {
  const sheet = world.radioModels.get(id) ?? world.antennaModels.get(id) ?? world.parts.get(id);
  return sheet ? `${sheet.maker} ${sheet.model}` : id;
}
