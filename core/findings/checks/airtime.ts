import { accessLinks, sectorAirtime } from "../../capacity";
import { fullSectorWays } from "../../expansion";
import type { LinkSummary } from "../../outcome";
import { endOf, type Link, type World } from "../../plan";
import type { Check, PlanFault, Thing } from "./check";

export const airtime: Check = {
  id: "airtime",
  title: "Out of airtime",
  stage: "capacity",
  ofPlan: airtimeFaults,
  remedies: (world, { radioId }, tools) => (radioId === null ? [] : fullSectorWays(world, radioId, tools)),
};

/** Access points whose customers ask for more time than there is, each with the link to look at first. */
function airtimeFaults(world: World, summaries: ReadonlyMap<string, LinkSummary>): PlanFault[] {
  return [...accessLinks(world)].flatMap(([sectorId, links]) => {
    const { down, up, unreached } = sectorAirtime(world, links, summaries);
    // One customer alone who asks for more than there is has a finding of his own.
    if (links.length < 2 || Math.max(down, up) <= 1) return [];
    const people = links.reduce((sum, { bRadioId }) => sum + peopleAt(world, bRadioId), 0);
    const left =
      unreached > 0 ? `; ${unreached} more ${unreached === 1 ? "is" : "are"} not reached and not counted` : "";
    const sector = endOf(world, sectorId);
    return {
      about: [{ kind: "radios", id: sectorId }, ...links.map(({ id }): Thing => ({ kind: "links", id }))],
      linkId: slowest(links, summaries).id,
      where: `${sector.radio.name} at ${sector.placeName}`,
      people,
      radioId: sectorId,
      figure: { value: Math.max(down, up), unit: "of the airtime" },
      what: `${links.length} customers ask for ${down.toFixed(1)} times its airtime toward them and ${up.toFixed(1)} times back${left}`,
      why: `What each asks for over the rate each can get, added up${world.plan.oversubscription > 1 ? ` and shared by the plan's oversubscription of ${world.plan.oversubscription}` : ""}, against the share of the frame: at the busy hour all get less than they asked for.`,
      cause: null,
    };
  });
}

const peopleAt = (world: World, radioId: string) =>
  world.subscribers.get(world.radios.get(radioId)?.subscriberId ?? "")?.people ?? 0;

function slowest(links: readonly Link[], summaries: ReadonlyMap<string, LinkSummary>): Link {
  const rate = ({ id }: Link) => summaries.get(id)?.downMbps ?? 0;
  return links.reduce((worst, link) => (rate(link) < rate(worst) ? link : worst));
}
