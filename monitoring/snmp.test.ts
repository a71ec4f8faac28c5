import { expect, test } from "@jest/globals";
import snmp from "net-snmp";
import { SNMP_AUTHS, SNMP_PRIVACIES, snmpSettingsSchema, UPTIME_OID } from "#core/watch";
import { startSnmpAgent } from "#simulators";
import { askDevice, numberOf } from "./snmp";

test("a 64-bit counter is read by its type: bytes that happen to be digits are no text", () => {
  const { Counter64, OctetString, Integer } = snmp.ObjectType;
  expect(numberOf({ type: Counter64, value: Buffer.from([0x35]) })).toBe(53);
  expect(numberOf({ type: Counter64, value: Buffer.from([0x31, 0x32]) })).toBe(0x3132);
  expect(numberOf({ type: OctetString, value: Buffer.from("12.5") })).toBe(12.5);
  expect(numberOf({ type: OctetString, value: Buffer.from([1, 2]) })).toBeNull();
  expect(numberOf({ type: Integer, value: 7 })).toBe(7);
});

test.each([
  ["md5", "des"],
  ["sha", "aes"],
  ["sha256", "aes"],
  ["sha256", "aes256r"],
] as const)(
  "a device that knows %s and %s answers",
  async (auth, privacy) => {
    const port = 21_000 + Math.floor(Math.random() * 2000);
    const user = { name: "desk", password: "password-of-desk", key: "key-of-the-desk", auth, privacy };
    const agent = await startSnmpAgent({ port, community: "none", user, objects: { [UPTIME_OID]: 600_000 } });
    try {
      const settings = snmpSettingsSchema.parse({
        isOn: true,
        version: "3",
        user: "desk",
        auth,
        privacy,
        port,
        models: [],
      });
      const reading = await askDevice("127.0.0.1", undefined, settings, { community: "", ...user });
      expect(reading?.upHundredths).toBe(600_000);
      expect(SNMP_AUTHS).toContain(auth);
      expect(SNMP_PRIVACIES).toContain(privacy);
    } finally {
      agent.stop();
    }
  },
  30_000,
);
