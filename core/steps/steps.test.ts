import { expect, test } from "@jest/globals";
import { rateChanges, rateChangeSteps } from "#core/channels";
import { findingsInHand, findingsInHandSteps, reviewPlan } from "#core/evaluate";
import { airSteps, listeningIn } from "#core/interference";
import { noiseMadePeopleKm2, outcomeOf, outcomeSteps } from "#core/outcome";
import { finished, type Steps } from "#core/steps";
import { plainTerrain, sampleProfile } from "#core/terrain";
import { demoPlan, islandSurface } from "#demo";
import { worldOf } from "#core/plan";

const surface = islandSurface();
const world = worldOf(demoPlan(surface));
const review = reviewPlan(world, (from, to) => sampleProfile(plainTerrain(surface), from, to));

/** What stepped work comes to where whoever drives it rests after each step, and how often that was. */
function rested<T>(work: Steps<T>): { value: T; rests: number } {
  for (let rests = 0; ; rests++) {
    const { done, value } = work.next();
    if (done) return { value, rests };
  }
}

test("work that rests after each step comes to what it comes to at once, and rests between any two long pieces", () => {
  const { summaries, findings } = review;
  const outcome = rested(outcomeSteps(world, summaries));
  expect(outcome.value).toEqual(outcomeOf(world, summaries));
  expect(outcome.value.noiseMadePeopleKm2).toBe(noiseMadePeopleKm2(world));
  // Once for each of those who make noise at least.
  const loud = new Set([...world.links.values()].map(({ aRadioId }) => aRadioId));
  expect(outcome.rests).toBeGreaterThanOrEqual(loud.size);

  const wrong = rested(findingsInHandSteps(world, findings, new Map(), summaries));
  expect(wrong.value).toEqual(findingsInHand(world, findings, new Map(), summaries));
  expect(wrong.rests).toBeGreaterThan(10);

  const air = rested(airSteps(world));
  expect(air.value).toEqual(listeningIn(world).air());
  expect(air.rests).toBeGreaterThanOrEqual(air.value.classes.size);

  const slower = new Map(summaries);
  const [first] = slower.values();
  slower.set(first!.linkId, { ...first!, downMbps: first!.downMbps / 2 });
  const rates = rested(rateChangeSteps(world, summaries, slower));
  expect(rates.value).toEqual(rateChanges(world, summaries, slower));
  expect(rates.value).toMatchObject({ faster: 0, slower: 1 });
});

test("finished work gives its value, whether it rested or not", () => {
  function* counting(to: number): Steps<number> {
    let sum = 0;
    for (let i = 1; i <= to; i++) {
      sum += i;
      yield;
    }
    return sum;
  }
  expect([0, 1, 4].map((to) => finished(counting(to)))).toEqual([0, 1, 10]);
});
