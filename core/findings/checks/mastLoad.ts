import { mastLoad as loadOf, momentOverNm } from "../../mast";
import { peopleBehindSite } from "../../outcome";
import { radiosBySite } from "../../plan";
import { figure } from "../../words";
import type { Check, PlanFault } from "./check";

export const mastLoad: Check = {
  id: "mastLoad",
  title: "More wind than the owner allows",
  stage: "kit",
  ofPlan: (world) => {
    const stated = [...world.sites.values()].filter(({ mastMomentNm }) => mastMomentNm > 0);
    if (stated.length === 0) return [];
    const bySite = radiosBySite(world);
    return stated.flatMap((site): PlanFault[] => {
      const load = loadOf(world, bySite.get(site.id) ?? []);
      const overNm = momentOverNm(site, load);
      if (overNm <= 0) return [];
      return [
        {
          about: [{ kind: "sites", id: site.id }],
          ...{ radioId: null, where: site.name, cause: null, linkId: null },
          what: `antennas turn the structure by ${figure(load.momentNm / 1000)} kN·m in a gust of ${figure(world.plan.gustMPerS, 0)} m/s; the owner allows ${figure(site.mastMomentNm / 1000)}`,
          why: "Worked out from the antennas alone. The structure, its code and those licensed for it decide.",
          figure: { value: overNm / 1000, unit: "kN·m" },
          people: peopleBehindSite(world, site.id),
        },
      ];
    });
  },
};
