import { mountsLeft, radiosBySite } from "../../plan";
import { counted } from "../../words";
import { peopleBehindSite } from "../../outcome";
import type { Check } from "./check";

export const mounts: Check = {
  id: "mounts",
  title: "Short of mounts",
  stage: "install",
  ofPlan: (world) => {
    const bySite = radiosBySite(world);
    return [...world.sites.values()].flatMap((site) => {
      const short = -mountsLeft(world, site, bySite);
      if (short <= 0) return [];
      const radios = bySite.get(site.id)!;
      const ids = new Set(radios.map(({ id }) => id));
      const link = [...world.links.values()].find(({ aRadioId, bRadioId }) => ids.has(aRadioId) || ids.has(bRadioId));
      return [
        {
          about: [{ kind: "sites" as const, id: site.id }],
          radioId: null,
          where: site.name,
          what: `${counted(radios.length, "radio")} for ${counted(site.freeMounts, "mount")}: ${short} short`,
          why: "What has nowhere to hang goes home with the crew. Another pole, or fewer radios; the site's sheet has the count.",
          figure: { value: short, unit: "mounts" },
          cause: null,
          people: peopleBehindSite(world, site.id),
          linkId: link?.id ?? null,
        },
      ];
    });
  },
};
