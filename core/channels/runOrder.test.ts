import { expect, test } from "@jest/globals";
import { backhaulOf } from "#core/capacity";
import { runGroups, trialSeconds } from "#core/channels";
import { answering, summarize } from "#core/outcome";
import { valley } from "#core/testing";

test("moves become groups: farthest first, the leader last, with the wait for radar and whether there is another way", () => {
  const { world, between } = valley(0, (rows) => {
    for (const site of rows.sites) site.isFeed = site.id === "east";
  });
  const answerOf = answering(world, between);
  const summaries = new Map([...world.links.values()].map((link) => [link.id, summarize(world, link, answerOf(link))]));
  const move = (radioId: string, toMHz: number) => ({
    radioId,
    name: radioId,
    fromMHz: world.radios.get(radioId)!.frequencyMHz,
    toMHz,
  });
  const groups = runGroups(world, [move("west-east", 5620), move("sector", 5180)], backhaulOf(world, summaries));
  // The sector stands behind the bridge: it goes first, its customer before it.
  expect(groups.map(({ leaderId, followerIds }) => [leaderId, followerIds])).toEqual([
    ["sector", ["farm-radio"]],
    ["east-west", ["west-east"]],
  ]);
  expect(groups.map(({ hasSpareWay }) => hasSpareWay)).toEqual([null, false]);
  // Weather radars are listened for ten minutes; where none are, nobody waits.
  expect(groups.map(({ radarWaitS }) => radarWaitS)).toEqual([0, 600]);
  expect(trialSeconds({ followerIds: ["x"], radarWaitS: 60 })).toBe(120 + 60 + 9 * 20 + 2 * 10 * 3 * 2);
});
