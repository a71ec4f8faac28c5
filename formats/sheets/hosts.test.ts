import { expect, test } from "@jest/globals";
import { writeHosts, writeZone } from "#formats/sheets";
import { radioIn, valley } from "#core/testing";

test("every address has a name that resolvers take, no two alike, in both families", () => {
  const { world } = valley(0, (rows) => {
    Object.assign(radioIn(rows, "west-east"), { name: "Cerro  Añil", address: "10.0.0.7" });
    Object.assign(radioIn(rows, "east-west"), { name: "cerro anil", address: "2001:db8::7" });
    Object.assign(radioIn(rows, "sector"), { name: "Torre", address: "nowhere" });
  });
  expect(writeHosts(world)).toBe("10.0.0.7\tcerro-anil\n2001:db8::7\tcerro-anil-2\n");
  expect(writeZone(world)).toBe("cerro-anil\tIN\tA\t10.0.0.7\ncerro-anil-2\tIN\tAAAA\t2001:db8::7\n");
});
