import { rmSync } from "node:fs";
import { expect, test } from "@jest/globals";
import { killWriters } from "./testing/kills";
import { cutPower, mayCutPower } from "./testing/powerCut";
import { begunDirectory } from "./testing";

test("writers killed twice in the middle of their work lose nothing that was acknowledged, and every restart is good", async () => {
  const directory = await begunDirectory("kill");
  const survived = await killWriters(directory, 2, Math.random);
  expect(survived).toMatchObject({ lost: 0, failedStarts: 0 });
  expect(survived.acknowledged).toBeGreaterThan(3);
  rmSync(directory, { recursive: true, force: true });
}, 180_000);

(mayCutPower() ? test : test.skip)(
  "a power cut loses nothing that was acknowledged, and the database opens again",
  async () => {
    const survived = await cutPower(2, Math.random);
    expect(survived).toMatchObject({ lost: 0, failedStarts: 0 });
    expect(survived?.acknowledged).toBeGreaterThan(3);
  },
  180_000,
);
