import type { Remedy } from "../../trial";
import { peopleBehindRadio } from "../../outcome";
import { linksOn, setPatch, type Radio, type World } from "../../plan";
import { frameShare } from "../../radio";
import { figure } from "../../words";
import type { Check } from "./check";

/** Access points that keep one time, by their timing group, each with its share of the frame toward customers. */
function timed(world: World): Map<string, { radio: Radio; share: number }[]> {
  const groups = new Map<string, { radio: Radio; share: number }[]>();
  for (const radio of world.radios.values()) {
    const model = world.radioModels.get(radio.radioModelId);
    const { timingGroup = "", downShare = null } = radio;
    if (radio.role !== "sector" || timingGroup === "" || model?.duplex !== "TDD") continue;
    const one = { radio, share: frameShare(model, "down", downShare) };
    groups.set(timingGroup, [...(groups.get(timingGroup) ?? []), one]);
  }
  return groups;
}

/** The share that most of a group have, of equally many the larger. */
function usualShare(group: readonly { share: number }[]): number {
  const count = (share: number) => group.filter((one) => one.share === share).length;
  return group.reduce(
    (best, { share }) => ((count(share) - count(best) || share - best) > 0 ? share : best),
    group[0]!.share,
  );
}

export const frames: Check = {
  id: "frames",
  title: "Frames differ",
  stage: "channels",
  ofPlan: (world) =>
    [...timed(world)].flatMap(([name, group]) => {
      const usual = usualShare(group);
      return group
        .filter(({ share }) => share !== usual)
        .map(({ radio, share }) => ({
          about: [{ kind: "radios" as const, id: radio.id }],
          radioId: radio.id,
          linkId: linksOn(world, radio.id)[0]?.id ?? null,
          where: `${radio.name} at ${world.sites.get(radio.siteId ?? "")?.name ?? ""}`,
          people: peopleBehindRadio(world, radio.id),
          what: `${figure(share * 100, 0)} % toward customers, the others of "${name}" ${figure(usual * 100, 0)} %`,
          why: "Access points of one timing group send together only where their frames are shared alike: otherwise one still sends while another already listens, and the noise counted as silent is heard.",
          figure: { value: Math.abs(share - usual) * 100, unit: "% of the frame" },
          cause: null,
        }));
    }),
  remedies: (world, { radioId }): Remedy[] => {
    const radio = world.radios.get(radioId ?? "");
    const group = timed(world).get(radio?.timingGroup ?? "");
    if (!radio || !group) return [];
    const usual = usualShare(group);
    const share = `${figure(usual * 100, 0)} %`;
    return [
      {
        label: `Share ${radio.name}'s frame as the others of its timing group: ${share} toward customers`,
        effect: `all ${group.length} of the group at ${share}`,
        patches: [setPatch("carriers", radio.carrierId, { downShare: usual })],
        visit: false,
      },
    ];
  },
};
