import { expect, test } from "@jest/globals";
import { backhaulOf } from "#core/capacity";
import { runGroups, toldRadios, trialSeconds } from "#core/channels";
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
    powers: [],
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
  const [quieter] = runGroups(
    world,
    [
      {
        ...move("sector", world.radios.get("sector")!.frequencyMHz),
        powers: [{ radioId: "farm-radio", fromDbm: 20, toDbm: 17 }],
      },
    ],
    backhaulOf(world, summaries),
  );
  // On the channel on which it stands nobody listens for radar anew, and only whose power changes is told.
  expect(quieter).toMatchObject({ radarWaitS: 0, powers: { "farm-radio": { fromDbm: 20, toDbm: 17 } } });
  expect(toldRadios(quieter!)).toEqual(["farm-radio"]);
  expect(toldRadios(groups[0]!)).toEqual(["farm-radio", "sector"]);
  expect(trialSeconds({ followerIds: ["x"], radarWaitS: 60 })).toBe(120 + 60 + 9 * 20 + 2 * 10 * 3 * 2);
});
