import { accessPoints, homeSiteOf, parsedSubnet } from "#core/addressing";
import { endOf, type World } from "#core/plan";
import { writeCsv } from "../text";

const COLUMNS = ["name", "address", "prefixLength", "gateway", "at", "role", "radio"] as const;

/** Every radio's address with its network's length and gateway: what a bench types in. */
export function writeAddressesCsv(world: World): string {
  const apOf = accessPoints(world);
  return writeCsv(
    COLUMNS,
    [...world.radios.values()].map((radio) => {
      const { model, placeName } = endOf(world, radio.id);
      const site = world.sites.get(homeSiteOf(world, radio, apOf) ?? "");
      const length = parsedSubnet(site?.subnet ?? "")?.length ?? null;
      return [
        radio.name,
        radio.address,
        length,
        site?.gateway ?? "",
        placeName,
        radio.role,
        `${model.maker} ${model.model}`,
      ];
    }),
  );
}
