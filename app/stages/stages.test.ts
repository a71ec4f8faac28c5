import { expect, test } from "@jest/globals";
import { CHECKS, STAGE_IDS } from "#core/findings";
import { stageByKey, stageNamed, stageOf, STAGES } from "./index";

test("every stage has a manifest: its own letter, no two of one name, old addresses lead to it", () => {
  expect(STAGES.map(({ id }) => id)).toEqual(STAGE_IDS);
  expect(new Set(STAGES.map(({ key }) => key)).size).toBe(STAGES.length);
  for (const one of STAGES) expect([stageByKey(one.key), stageNamed(one.id), stageOf(one.id)]).toEqual([one, one, one]);
  expect(["bench", "proof", "watch"].map((word) => stageNamed(word)?.id)).toEqual([
    "staging",
    "acceptance",
    "monitoring",
  ]);
  expect([stageNamed("library"), stageNamed(undefined), stageByKey("z")]).toEqual([undefined, undefined, undefined]);
});

test("every check belongs to a stage that there is; keys are letters, labels are names, no two views share one", () => {
  for (const { stage } of CHECKS) expect(STAGES.some(({ id }) => id === stage)).toBe(true);
  for (const { key, label, views } of STAGES) {
    expect(key).toMatch(/^[a-z]$/);
    expect(label).toMatch(/^[A-Z]/);
    expect(Object.keys(views)).toHaveLength(new Set(Object.values(views)).size);
  }
});
