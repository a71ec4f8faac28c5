import { fullFeedFaults, fullHopFaults, ringFaults, unfedFaults } from "../backhaul";
import { fullHopRemedies } from "../hopWays";
import type { Check } from "./check";

export const unfed: Check = {
  id: "unfed",
  title: "No way to a feed",
  stage: "capacity",
  ofPlan: (world, _summaries, backhaul) => unfedFaults(world, backhaul),
};

export const fullHop: Check = {
  id: "fullHop",
  title: "Bridge too narrow",
  stage: "capacity",
  ofPlan: (world, _summaries, backhaul) => fullHopFaults(world, backhaul),
  remedies: (world, { linkId }, { profileBetween }) => (linkId ? fullHopRemedies(world, linkId, profileBetween) : []),
};

export const fullFeed: Check = {
  id: "fullFeed",
  title: "Feed too narrow",
  stage: "capacity",
  ofPlan: (world, _summaries, backhaul) => fullFeedFaults(world, backhaul),
};

export const ring: Check = {
  id: "ring",
  title: "Ring of bridges",
  stage: "capacity",
  ofPlan: (world, _summaries, backhaul) => ringFaults(world, backhaul),
};
