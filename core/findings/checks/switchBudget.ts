import { peopleBehindSite } from "../../outcome";
import { radiosBySite, setPatch, type Site, type World } from "../../plan";
import { switchBudget as budgetOf, type SwitchBudget } from "../../power";
import { figure } from "../../words";
import { mending } from "../kit/radios";
import type { Check, PlanFault } from "./check";

/** The budget of a site's switch; null without one. */
const siteBudget = (world: World, site: Site): SwitchBudget | null =>
  budgetOf(world, site, radiosBySite(world).get(site.id) ?? []);

/** What is wrong with a switch; null where it feeds all that hang on it. */
function problemOf({ part, fed, loadW, startW, overW, overPorts, startsInTurn }: SwitchBudget) {
  if (overPorts > 0)
    return {
      what: `${part.model} feeds ${part.ports} radios, ${fed.length} hang on it`,
      why: "Those that find no socket stay dark.",
      figure: { value: overPorts, unit: "" },
    };
  if (overW > 0)
    return {
      what: `radios draw ${figure(loadW, 0)} W from ${part.model}, which gives ${figure(part.watts!, 0)}`,
      why: "At its limit a switch turns sockets off, and it chooses which.",
      figure: { value: overW, unit: "W" },
    };
  if (startsInTurn)
    return {
      what: `all its radios at once draw ${figure(startW, 0)} W as they start, ${part.model} gives ${figure(part.watts!, 0)}`,
      why: "They run. After a power cut they start one after the other only where the switch is set to.",
      figure: { value: startW - part.watts!, unit: "W" },
    };
  return null;
}

export const switchBudget: Check = {
  id: "switchBudget",
  title: "Switch gives too little",
  stage: "kit",
  ofPlan: (world) =>
    [...world.sites.values()].flatMap((site): PlanFault[] => {
      const budget = site.switchPartId === null ? null : siteBudget(world, site);
      const problem = budget && problemOf(budget);
      if (!problem) return [];
      return [
        {
          ...problem,
          about: [{ kind: "sites", id: site.id }],
          ...{ radioId: null, where: site.name, cause: null, linkId: null },
          people: peopleBehindSite(world, site.id),
        },
      ];
    }),
  remedies: (world, { about }) => {
    const site = world.sites.get(about?.[0]?.id ?? "");
    if (!site) return [];
    const { standard } = world.parts.get(site.switchPartId ?? "") ?? {};
    const others = [...world.parts.values()]
      .filter((part) => part.kind === "switch" && part.standard === standard && part.id !== site.switchPartId)
      .sort((x, y) => x.priceEur - y.priceEur);
    return mending(
      world,
      others.map((part) => ({
        label: `Plan ${part.maker} ${part.model}`,
        effect: `${figure(part.watts ?? 0, 0)} W on ${part.ports ?? 0} sockets`,
        patches: [setPatch("sites", site.id, { switchPartId: part.id })],
      })),
      (then) => {
        const budget = siteBudget(then, then.sites.get(site.id)!);
        return !budget || problemOf(budget) !== null;
      },
    );
  },
};
