import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { valley, valleySurface } from "#core/testing";
import { planContext, stopEngine } from "#engine";
import { startScanner } from "#simulators";
import { createPlan, openStore, packLayer, signedBy, type Store } from "#store";
import { askScanner } from "../app/noise/askScanner.server";

const directory = mkdtempSync(join(tmpdir(), "tejado-scanner-"));
let store: Store;
beforeAll(async () => {
  store = await openStore(directory);
  const { layer, tiles } = packLayer("valley", "ground", "bare", valleySurface(12));
  await createPlan(store.db, { ...valley().rows, layers: [layer] }, signedBy("test"), "Began", {
    tiles: tiles.map((tile) => ({ layerId: layer.id, ...tile })),
    photos: [],
  });
});
afterAll(async () => {
  await stopEngine();
  await store.close();
  rmSync(directory, { recursive: true, force: true });
});

test("the stand-in scanner answers over loopback, the same for the same seed, and hears the plan", async () => {
  const context = (await planContext(store, "valley"))!;
  const scanner = await startScanner(context);
  try {
    const device = (await (await fetch(`${scanner.url}/device`)).json()) as { device: string };
    expect(device.device).toBe("Tejado stand-in scanner");
    const query = {
      site: "east",
      heading: "270",
      beamwidth: "60",
      gain: "12",
      polarization: "V",
      from: "5500",
      to: "5900",
      bin: "1000",
    };
    const scan = await askScanner(scanner.url, query);
    expect(scan).toEqual(await askScanner(scanner.url, query));
    expect(scan.frequenciesMHz).toHaveLength(400);
    await expect(askScanner(scanner.url, { ...query, site: "nowhere" })).rejects.toThrow(
      'no scanner stands at "nowhere"',
    );
    await expect(askScanner(scanner.url, { ...query, bin: "x" })).rejects.toThrow("bin:");
    await expect(askScanner("http://192.0.2.1:9", query)).rejects.toThrow("is not this machine");
  } finally {
    await scanner.stop();
  }
});
