import { spawn, spawnSync } from "node:child_process";
import { createServer } from "node:net";
import { setTimeout as pause } from "node:timers/promises";
import { expect, test } from "@jest/globals";
import { IPERF_MOST_BYTES, IperfError, ratesOf, readIperf } from "#formats/iperf";

const bytes = (value: unknown) => new TextEncoder().encode(typeof value === "string" ? value : JSON.stringify(value));
const sum = (bps: number, more: object = {}) => ({ bits_per_second: bps, seconds: 10, ...more });
/** A result as iperf3 writes it, with what a test changes. */
const result = (testStart: object = {}, end: object = {}, more: object = {}) => ({
  start: {
    version: "iperf 3.12",
    timestamp: { time: "", timesecs: 1_795_762_676 },
    test_start: { protocol: "TCP", num_streams: 1, duration: 10, reverse: 0, ...testStart },
  },
  intervals: [{ sum: sum(70e6, { omitted: true }) }, { sum: sum(90e6) }, { sum: sum(96e6) }],
  end: { sum_sent: sum(95e6, { retransmits: 7 }), sum_received: sum(94e6), ...end },
  ...more,
});
const refusal = (value: unknown) => {
  try {
    readIperf(bytes(value));
  } catch (error) {
    if (error instanceof IperfError) return error.message;
    throw error;
  }
  return null;
};

test("what arrived counts, not what was sent, and warming up does not", () => {
  expect(readIperf(bytes(result()))).toEqual({
    ...{ protocol: "TCP", streams: 1, seconds: 10, startedAt: "2026-11-27T06:57:56.000Z" },
    flows: [
      {
        ...{ direction: "fromClient", mbps: 94, leastMbps: 90, mostMbps: 96 },
        ...{ retransmits: 7, lostPercent: null, jitterMs: null },
      },
    ],
  });
});

test("backward, both ways, UDP, and older files without a receiver's sum", () => {
  expect(readIperf(bytes(result({ reverse: 1 }))).flows[0]!.direction).toBe("toClient");
  const both = readIperf(
    bytes(
      result(
        { bidir: 1, num_streams: 4 },
        { sum_received_bidir_reverse: sum(40e6), sum_sent_bidir_reverse: sum(41e6) },
      ),
    ),
  );
  expect(both.flows.map(({ direction, mbps }) => [direction, mbps])).toEqual([
    ["fromClient", 94],
    ["toClient", 40],
  ]);
  const udp = readIperf(
    bytes(
      result(
        { protocol: "UDP" },
        { sum_sent: undefined, sum_received: undefined, sum: sum(20e6, { lost_percent: 1.5, jitter_ms: 0.2 }) },
      ),
    ),
  );
  expect(udp.flows[0]).toMatchObject({ mbps: 20, lostPercent: 1.5, jitterMs: 0.2, retransmits: null });
});

test("events line by line come to the same", () => {
  const whole = result();
  const lines = [
    { event: "start", data: whole.start },
    ...whole.intervals.map((data) => ({ event: "interval", data })),
    { event: "end", data: whole.end },
  ];
  expect(readIperf(bytes(lines.map((line) => JSON.stringify(line)).join("\n")))).toEqual(readIperf(bytes(whole)));
});

test("broken, failed, cut and huge files are refused with the place", () => {
  expect(refusal("")).toBe("the file is empty");
  expect(refusal(JSON.stringify(result()).slice(0, 300))).toMatch(/^the file is no JSON: it ends too soon, in line 1/);
  expect(refusal([1])).toMatch(/^the file holds no result; an object .* was expected$/);
  expect(refusal({ ...result(), error: "unable to connect to server: Connection refused" })).toBe(
    "the test failed: unable to connect to server: Connection refused",
  );
  expect(refusal(result({ protocol: "ICMP" }))).toBe("start.test_start.protocol must be one of TCP, UDP, SCTP");
  expect(refusal(result({}, { sum_received: sum(-1) }))).toBe("end.sum_received.bits_per_second must be at least 0");
  expect(refusal(result({}, { sum_received: undefined, sum_sent: undefined }))).toMatch(/^end has no sum/);
  expect(refusal('{"event":"start","data":{}}\n{"event":')).toMatch(/^line 2 is no JSON/);
  expect(() => readIperf(new Uint8Array(IPERF_MOST_BYTES + 1))).toThrow("at most 33554432 are read");
});

test("rates are turned by the end that began, and several runs are their mean", () => {
  const forward = readIperf(bytes(result()));
  const back = readIperf(bytes(result({ reverse: 1 }, { sum_received: sum(50e6) })));
  const again = readIperf(bytes(result({}, { sum_received: sum(84e6) })));
  expect(ratesOf([forward, back, again], "b")).toEqual({ downMbps: 50, upMbps: 89 });
  expect(ratesOf([forward], "a")).toEqual({ downMbps: 94, upMbps: null });
  expect(ratesOf([], "a")).toEqual({ downMbps: null, upMbps: null });
});

const isThere = spawnSync("iperf3", ["--version"]).status === 0;
const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });
/** Runs iperf3 against itself over loopback. */
async function measured(...flags: string[]): Promise<Uint8Array> {
  const port = String(await freePort());
  const server = spawn("iperf3", ["-s", "-1", "-p", port], { stdio: "ignore" });
  await pause(400);
  const { stdout } = spawnSync("iperf3", ["-c", "127.0.0.1", "-p", port, "-t", "1", "-J", ...flags], {
    timeout: 20_000,
  });
  server.kill();
  return stdout;
}
(isThere ? test : test.skip)(
  "what iperf3 itself writes over loopback is read, in each of its modes",
  async () => {
    const plain = readIperf(await measured());
    expect(plain).toMatchObject({ protocol: "TCP", streams: 1, flows: [{ direction: "fromClient" }] });
    expect(plain.flows[0]!.mbps).toBeGreaterThan(10);
    const both = readIperf(await measured("--bidir", "-P", "2"));
    expect(both.flows.map(({ direction }) => direction)).toEqual(["fromClient", "toClient"]);
    const udp = readIperf(await measured("-u", "-b", "20M", "-R"));
    expect(udp).toMatchObject({ protocol: "UDP", flows: [{ direction: "toClient" }] });
    expect(udp.flows[0]!.mbps).toBeCloseTo(20, -1);
    expect(udp.flows[0]!.lostPercent).not.toBeNull();
  },
  60_000,
);
