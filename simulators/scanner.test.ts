import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { rmSync } from "node:fs";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { valley, valleySurface } from "#core/testing";
import { planContext, stopEngine } from "#engine";
import { startScanner } from "#simulators";
import { createPlan, openStore, packLayer, signedBy, type Store } from "#store";
import { askScanner } from "../app/noise/askScanner.server";
import { begunDirectory } from "../store/testing";

const directory = await begunDirectory("scanner");
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
    // What a scanner says of itself is not told on: only that it refused.
    await expect(askScanner(scanner.url, { ...query, site: "nowhere" })).rejects.toThrow(
      /^the scanner refused: it answered 4\d\d$/,
    );
    await expect(askScanner(scanner.url, { ...query, bin: "x" })).rejects.toThrow(
      /^the scanner refused: it answered 4\d\d$/,
    );
    await expect(askScanner("http://192.0.2.1:9", query)).rejects.toThrow("is not this machine");
  } finally {
    await scanner.stop();
  }
});

test("a scanner that sends elsewhere, answers without end, or something else is refused in words of ours", async () => {
  const odd = createServer((request, response) => {
    const { pathname } = new URL(request.url!, "http://x");
    const site = new URL(request.url!, "http://x").searchParams.get("site");
    expect(pathname).toBe("/scan");
    if (site === "elsewhere") response.writeHead(302, { location: "http://192.0.2.1/" }).end();
    else if (site === "html") response.end("<h1>secret of a router</h1>");
    else if (site === "other") response.end('{"secret": 1}');
    else {
      response.on("error", () => undefined);
      const send = () => response.writable && response.write("0".repeat(1 << 20), () => setImmediate(send));
      send();
    }
  });
  await new Promise<void>((resolve) => odd.listen(0, "127.0.0.1", resolve));
  const url = `http://localhost:${(odd.address() as AddressInfo).port}`;
  const said = (site: string) => askScanner(url, { site }).catch((error: Error) => error.message);
  try {
    expect(await said("elsewhere")).toBe("the scanner does not answer, or sends elsewhere");
    expect(await said("html")).toBe("the scanner’s answer is no JSON");
    expect(await said("other")).toMatch(/^the scanner’s answer is no scan/);
    expect(await said("endless")).toBe("the scanner answers more than 8388608 bytes");
    expect(await askScanner("ftp://localhost/", {}).catch((error: Error) => error.message)).toContain("http://");
  } finally {
    odd.closeAllConnections();
    await new Promise((resolve) => odd.close(resolve));
  }
});
