import { expect, test } from "@jest/globals";
import { PingError, readPing } from "#formats/ping";

test("the summary of a series is read, of either kind of system", () => {
  const linux = `64 bytes from 10.0.0.1: icmp_seq=1 ttl=64 time=2.1 ms

--- 10.0.0.1 ping statistics ---
20 packets transmitted, 19 received, 5% packet loss, time 19031ms
rtt min/avg/max/mdev = 1.903/3.250/9.871/1.4 ms`;
  expect(readPing(linux)).toEqual({ sent: 20, received: 19, lostPercent: 5, meanMs: 3.25, mostMs: 9.871 });
  const bsd =
    "10 packets transmitted, 10 packets received, 0.0% packet loss\nround-trip min/avg/max/stddev = 1.1/2.2/3.3/0.4 ms";
  expect(readPing(bsd)).toMatchObject({ received: 10, lostPercent: 0, meanMs: 2.2, mostMs: 3.3 });
  const windows = "Packets: Sent = 4, Received = 3, Lost = 1 (25% loss),\n Minimum = 1ms, Maximum = 9ms, Average = 4ms";
  expect(readPing(windows)).toEqual({ sent: 4, received: 3, lostPercent: 25, meanMs: 4, mostMs: 9 });
  expect(readPing("5 packets transmitted, 0 received, 100% packet loss")).toMatchObject({
    lostPercent: 100,
    meanMs: null,
  });
});

test("what holds no summary is refused with what to do", () => {
  expect(() => readPing("64 bytes from 10.0.0.1")).toThrow(PingError);
  expect(() => readPing("64 bytes from 10.0.0.1")).toThrow(
    expect.objectContaining({ todo: "Let ping end by itself, and bring all that it printed." }),
  );
  expect(() => readPing("3 packets transmitted, 4 received")).toThrow("4 packets received of 3 sent");
  expect(() => readPing("0 packets transmitted, 0 received")).toThrow("0 packets received of 0 sent");
  expect(() => readPing("x".repeat(5_000_001))).toThrow("at most 5000000");
});
