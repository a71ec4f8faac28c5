import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@jest/globals";
import { killWriters } from "./testing/kills";
import { cutPower } from "./testing/powerCut";

test("twenty writers killed in the middle of their work lose nothing that was acknowledged, and every restart is good", async () => {
  const directory = mkdtempSync(join(tmpdir(), "tejado-kill-"));
  const survived = await killWriters(directory, 4, Math.random);
  expect(survived).toMatchObject({ lost: 0, failedStarts: 0 });
  expect(survived.acknowledged).toBeGreaterThan(3);
  rmSync(directory, { recursive: true, force: true });
}, 180_000);

test("a power cut loses nothing that was acknowledged, and the database opens again", async () => {
  const survived = await cutPower(2, Math.random);
  // Where this process may not mount a file system there is none to be cut.
  if (!survived) return;
  expect(survived).toMatchObject({ lost: 0, failedStarts: 0 });
  expect(survived.acknowledged).toBeGreaterThan(3);
}, 180_000);
