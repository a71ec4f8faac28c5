import { mountsLeft, type World } from "../../plan";
import { counted } from "../../words";
import { peopleBehindSite } from "../outcome";
import type { Check } from "./check";

/** Radios planned at a site. */
const radiosAt = (world: World, siteId: string) =>
  [...world.radios.values()].filter((radio) => radio.siteId === siteId);

export const mounts: Check = {
  id: "mounts",
  title: "Short of mounts",
  stage: "install",
  ofPlan: (world) =>
    [...world.sites.values()].flatMap((site) => {
      const short = -mountsLeft(world, site);
      if (short <= 0) return [];
      const radios = radiosAt(world, site.id);
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
    }),
};
