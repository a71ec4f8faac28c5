import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  accessPoints,
  addressFaults,
  freeAddress,
  homeSiteOf,
  hostCount,
  isInSubnet,
  networkFaults,
  networkFor,
  parsedAddress,
  parsedSubnet,
  proposeAddresses,
  renumbering,
  reservedBy,
  reservedOf,
  reservedProblem,
  subnetProblem,
} from "#core/addressing";
import { setPatch, withPatches } from "#core/plan";
import { radioIn, town, valley, type ValleyRows } from "#core/testing";

describe("networks", () => {
  test("addresses are read in both families, and slips of the finger are none", () => {
    expect(parsedAddress(" 10.44.0.7 ")!.toString()).toBe("10.44.0.7");
    expect(parsedAddress("2001:DB8::0:1")!.toString()).toBe("2001:db8::1");
    for (const text of ["10.44.7", "10.44.0.256", "ten", "", "10.44.0.7/24", "::gg"])
      expect(parsedAddress(text)).toBeNull();
    for (const text of ["10.44.0.0", "10.44.0.0/33", "10.44.0.0/x", "2001:db8::/129"])
      expect(parsedSubnet(text)).toBeNull();
    expect(parsedSubnet("2001:db8::/64")!.length).toBe(64);
  });

  test("the free address lies in its network, is nobody's, and is neither the first nor the last", () => {
    expect(freeAddress("10.44.3.0/24", new Set(["10.44.3.1"]))).toBe("10.44.3.2");
    expect(freeAddress("10.44.3.77/30", new Set())).toBe("10.44.3.77");
    expect(freeAddress("10.44.3.76/30", new Set(["10.44.3.77", "10.44.3.78"]))).toBeNull();
    expect(freeAddress("10.44.3.8/31", new Set(["10.44.3.8"]))).toBe("10.44.3.9");
    expect(freeAddress("2001:db8::/64", new Set(["2001:db8::1"]))).toBe("2001:db8::2");
    expect(freeAddress("nothing", new Set())).toBeNull();
    fc.assert(
      fc.property(fc.integer({ min: 20, max: 30 }), fc.integer({ min: 0, max: 255 }), (length, third) => {
        const subnet = `10.9.${third}.0/${length}`;
        const found = parsedAddress(freeAddress(subnet, new Set())!)!;
        expect(isInSubnet(found, parsedSubnet(subnet)!)).toBe(true);
      }),
    );
  });

  test("what is wrong with a network and its gateway is said with both", () => {
    expect(subnetProblem({ subnet: "", gateway: "" })).toBeNull();
    expect(subnetProblem({ subnet: "10.44.0.0/24", gateway: "10.44.0.1" })).toBeNull();
    expect(subnetProblem({ subnet: "10.44.0.0/24", gateway: "10.45.0.1" })).toBe(
      "the gateway 10.45.0.1 lies outside 10.44.0.0/24",
    );
    expect(subnetProblem({ subnet: "10.44.0.0", gateway: "" })).toContain("write it like");
    expect(subnetProblem({ subnet: "10.44.0.0/24", gateway: "here" })).toBe('"here" is no address');
    expect(subnetProblem({ subnet: "", gateway: "10.0.0.1" })).toContain("no network around it");
    expect(subnetProblem({ subnet: "10.44.0.0/24", gateway: "2001:db8::1" })).toContain("lies outside");
  });
});

describe("a plan's addresses", () => {
  const planned = (change: (rows: ValleyRows) => void) =>
    valley(0, (rows) => {
      town(rows);
      for (const site of rows.sites) Object.assign(site, { subnet: "10.1.0.0/24", gateway: "10.1.0.1" });
      change(rows);
    }).world;

  test("two with one address, however it is written, the gateway's, what lies outside, and what is none are told", () => {
    const world = planned((rows) => {
      radioIn(rows, "west-east").address = "10.1.0.9";
      radioIn(rows, "east-west").address = "10.1.0.9";
      radioIn(rows, "sector").address = "10.1.0.1";
      radioIn(rows, "r0").address = "192.168.7.20";
      radioIn(rows, "r1").address = "10.1.9";
    });
    expect(addressFaults(world).map(({ radioId, kind }) => [radioId, kind])).toEqual([
      ["east-west", "twice"],
      ["sector", "twice"],
      ["r0", "outside"],
      ["r1", "none"],
    ]);
    // A customer belongs to his access point's network.
    expect(addressFaults(world)[2]!.what).toContain("10.1.0.0/24 of north-west");
  });

  test("what is proposed leaves nothing wrong, changes nobody who was right, and gives nobody another's", () => {
    const world = planned((rows) => {
      rows.radios.forEach((one, i) => (one.address = ["10.1.0.9", "", "10.1.0.9", "10.7.7.7"][i % 4]!));
    });
    const patches = proposeAddresses(world);
    const then = withPatches(world, patches);
    expect(addressFaults(then)).toEqual([]);
    const all = [...then.radios.values()].map(({ address }) => address);
    expect(new Set(all).size).toBe(all.length);
    expect(then.radios.get("west-east")!.address).toBe("10.1.0.9");
    expect(patches.some(({ id }) => id === "west-east")).toBe(false);
    expect(proposeAddresses(then)).toEqual([]);
  });

  test("customers take their own network and tag where their site has one, whose first address is their gateway's", () => {
    const world = planned((rows) => {
      for (const site of rows.sites) Object.assign(site, { clientSubnet: "10.2.0.0/24", vlan: 10, clientVlan: 20 });
      for (const radio of rows.radios) radio.address = "";
    });
    const [site] = [...world.sites.values()];
    expect(networkFor(site!, "sector")).toEqual({ subnet: "10.1.0.0/24", gateway: "10.1.0.1", vlan: 10 });
    expect(networkFor(site!, "subscriber")).toEqual({ subnet: "10.2.0.0/24", gateway: "10.2.0.1", vlan: 20 });
    const then = withPatches(world, proposeAddresses(world));
    expect(addressFaults(then)).toEqual([]);
    for (const { address, role } of then.radios.values())
      expect(address).toMatch(role === "subscriber" ? /^10\.2\.0\./ : /^10\.1\.0\./);
    expect([...then.radios.values()].map(({ address }) => address)).not.toContain("10.2.0.1");
    const wrong = planned((rows) => {
      for (const one of rows.sites) one.clientSubnet = "10.2.0.0/24";
      radioIn(rows, "r0").address = "10.1.0.77";
    });
    expect(addressFaults(wrong)).toContainEqual(expect.objectContaining({ radioId: "r0", kind: "outside" }));
  });

  test("what is wrong with a customers' network is said", () => {
    const site = { subnet: "10.1.0.0/24", gateway: "", clientSubnet: "10.2.0.0/24", vlan: 0, clientVlan: 0 };
    expect(subnetProblem(site)).toBeNull();
    expect(subnetProblem({ ...site, clientSubnet: "here" })).toContain('"here" is no network');
    for (const clientSubnet of ["10.1.0.128/25", "10.0.0.0/8"])
      expect(subnetProblem({ ...site, clientSubnet })).toContain("hold the same addresses");
    expect(subnetProblem({ ...site, vlan: 7, clientVlan: 7 })).toBe("tag 7 bears both of its networks");
  });

  test("the two ends of a bridge take a pair that follows, over a hole too small for both", () => {
    const world = planned((rows) => {
      for (const radio of rows.radios) radio.address = "";
      // 10.1.0.2 alone is free before 10.1.0.3.
      radioIn(rows, "sector").address = "10.1.0.3";
    });
    const then = withPatches(world, proposeAddresses(world));
    expect([then.radios.get("west-east")!.address, then.radios.get("east-west")!.address]).toEqual([
      ...["10.1.0.4", "10.1.0.5"],
    ]);
    expect([...then.radios.values()].map(({ address }) => address)).toContain("10.1.0.2");
  });

  test("a site moves to another network: customers first, far ends, the mast, and the gateway last", () => {
    const world = planned(() => undefined);
    const siteId = world.radios.get("sector-2")!.siteId!;
    const move = renumbering(world, siteId, { subnet: "10.9.0.0/24", clientSubnet: "10.8.0.0/24" });
    const then = withPatches(world, move.patches);
    expect(then.sites.get(siteId)).toMatchObject({ subnet: "10.9.0.0/24", gateway: "10.9.0.1" });
    const roles = move.steps.map(({ radioId }) => (radioId ? world.radios.get(radioId)!.role : "gateway"));
    const order = ["subscriber", "bridge", "sector", "gateway"];
    expect(roles.at(-1)).toBe("gateway");
    expect(roles.indexOf("sector")).toBeGreaterThan(roles.lastIndexOf("subscriber"));
    expect(roles.every((role) => order.includes(role))).toBe(true);
    for (const { radioId, to } of move.steps) if (radioId) expect(then.radios.get(radioId)!.address).toBe(to);
    expect(addressFaults(then).filter(({ radioId }) => move.steps.some((step) => step.radioId === radioId))).toEqual(
      [],
    );
    expect(move.leftOut).toBe(0);
    const tight = renumbering(world, siteId, { subnet: "10.9.0.0/30", clientSubnet: "" });
    expect(tight.leftOut).toBe(roles.length - 2);
    expect(() => renumbering(world, siteId, { subnet: "ten", clientSubnet: "" })).toThrow('"ten" is no network');
    expect(() => renumbering(world, "nowhere", { subnet: "10.9.0.0/24", clientSubnet: "" })).toThrow("nowhere");
  });
});

describe("networks of a plan", () => {
  const sites = (...networks: [subnet: string, gateway: string][]) =>
    valley(0, (rows) => {
      town(rows);
      networks.forEach(([subnet, gateway], i) => Object.assign(rows.sites[i]!, { subnet, gateway }));
    }).world;
  const whats = (...networks: [string, string][]) => networkFaults(sites(...networks)).map(({ what }) => what);

  test("may be one with one gateway, or apart; what overlaps or shares a gateway otherwise is told", () => {
    expect(whats(["10.1.0.0/24", "10.1.0.1"], ["10.1.0.0/24", "10.1.0.1"])).toEqual([]);
    expect(whats(["10.1.0.0/24", "10.1.0.1"], ["10.1.1.0/24", "10.1.1.1"])).toEqual([]);
    expect(whats(["10.1.0.0/23", "10.1.0.1"], ["10.1.1.0/24", "10.1.1.1"])[0]).toMatch(
      /^10.1.1.0\/24 and 10.1.0.0\/23 of .* hold the same addresses$/,
    );
    expect(whats(["10.1.0.0/24", "10.1.0.1"], ["10.1.0.0/24", "10.1.0.2"])[0]).toContain("with another gateway");
    // A gateway of somebody else's network is told as one outside its own.
    expect(whats(["10.1.0.0/24", "10.1.0.1"], ["10.2.0.0/24", "10.1.0.1"])).toEqual([]);
    expect(subnetProblem({ subnet: "10.2.0.0/24", gateway: "10.1.0.1" })).toContain("lies outside");
  });

  test("that have too few addresses for who belongs to them are told with both counts", () => {
    const world = sites(["10.1.0.0/30", "10.1.0.1"]);
    const siteId = [...world.sites.keys()][0]!;
    const own = [...world.radios.values()].filter((one) => homeSiteOf(world, one, accessPoints(world)) === siteId);
    expect(own.length).toBeGreaterThan(1);
    expect(networkFaults(world)).toEqual([
      {
        siteId,
        gateway: null,
        what: `10.1.0.0/30 has room for 1 radios beside its gateway, ${own.length} belong to it`,
      },
    ]);
    expect(hostCount(parsedSubnet("10.1.0.0/24")!)).toBe(254);
    expect(hostCount(parsedSubnet("10.1.0.0/31")!)).toBe(2);
  });

  test("keep their first and last address for themselves, and where devices answer out of the box nobody stays", () => {
    const world = valley(0, (rows) => {
      town(rows);
      for (const site of rows.sites) Object.assign(site, { subnet: "192.168.1.0/24", gateway: "192.168.1.1" });
      radioIn(rows, "west-east").address = "192.168.1.0";
      radioIn(rows, "east-west").address = "192.168.1.255";
    }).world;
    const model = world.radioModels.get(world.radios.get("r0")!.radioModelId)!;
    const [delivered] = model.boxAddress.split("/");
    expect(addressFaults(world).map(({ radioId, kind }) => [radioId, kind])).toEqual([
      ["west-east", "notHost"],
      ["east-west", "notHost"],
    ]);
    const then = withPatches(world, [setPatch("radios", "r0", { address: delivered! })]);
    expect(addressFaults(then).find(({ radioId }) => radioId === "r0")).toMatchObject({
      kind: "factory",
      what: `${delivered} is where ${model.model} answers as it leaves its box`,
    });
    expect(subnetProblem({ subnet: "10.1.0.0/24", gateway: "10.1.0.255" })).toContain("broadcast");
  });

  test("renumbering leaves who fits where he is, and counts free what moves away", () => {
    const world = sites(["10.1.0.0/24", "10.1.0.1"]);
    const siteId = [...world.sites.keys()][0]!;
    const own = [...world.radios.values()].filter((one) => homeSiteOf(world, one, accessPoints(world)) === siteId);
    const given = withPatches(world, proposeAddresses(world));
    // A wider network around the same addresses moves nobody.
    const wider = renumbering(given, siteId, { subnet: "10.1.0.0/23", clientSubnet: "" });
    expect([wider.steps.length, wider.leftOut]).toEqual([1, 0]);
    // Customers out, the mast into what they leave: the old addresses are free again.
    const bits = 32 - Math.ceil(Math.log2(own.length + 3));
    const moved = renumbering(given, siteId, { subnet: `10.1.0.0/${bits}`, clientSubnet: "10.8.0.0/24" });
    expect(moved.leftOut).toBe(0);
    const tos = moved.steps.map(({ to }) => to);
    expect(new Set(tos).size).toBe(tos.length);
  });
});

test("reserved addresses are given to nobody, and whoever has one is told whose it is", () => {
  const text =
    "10.44.1.2 - 10.44.1.5 routers\n10.44.1.7 the owner's camera\n\n10.99.0.0/16 the neighbour\nfd00::10 - fd00::1f";
  const { reserved, unread } = reservedOf(text);
  expect(unread).toBeNull();
  expect(reserved.map(({ text: own, whose }) => [own, whose])).toEqual([
    ["10.44.1.2 - 10.44.1.5", "routers"],
    ["10.44.1.7", "the owner's camera"],
    ["10.99.0.0/16", "the neighbour"],
    ["fd00::10 - fd00::1f", ""],
  ]);
  const holds = (address: string) => Number(reservedBy(reserved, parsedAddress(address)!) !== undefined);
  expect(
    ["10.44.1.1", "10.44.1.2", "10.44.1.5", "10.44.1.6", "10.44.1.7", "10.99.255.1", "10.100.0.1"].map(holds),
  ).toEqual([0, 1, 1, 0, 1, 1, 0]);
  expect(["fd00::f", "fd00::10", "fd00::1f", "fd00::20"].map(holds)).toEqual([0, 1, 1, 0]);
  const { world } = valley(0, (rows) => {
    rows.plan.reservedAddresses = text;
    Object.assign(rows.sites[0]!, { subnet: "10.44.1.0/28", gateway: "10.44.1.1" });
    rows.radios.find(({ id }) => id === "sector")!.address = "10.44.1.7";
  });
  expect(addressFaults(world)).toEqual([
    { radioId: "sector", kind: "reserved", what: "10.44.1.7 is reserved: the owner's camera", otherId: null },
  ]);
  const given = withPatches(world, proposeAddresses(world));
  const addresses = [...given.radios.values()].flatMap(({ address }) => (address === "" ? [] : [address]));
  expect(addresses.sort()).toEqual(["10.44.1.6", "10.44.1.8", "10.44.1.9"]);
  expect(addressFaults(given)).toEqual([]);
});

test("a line that begins with no address is named, with what to write", () => {
  expect(reservedProblem("10.44.1.2\nrouter 10.44.1.3")).toBe(
    'Line 2, "router 10.44.1.3", begins with no address: write 10.44.3.7, 10.44.3.1 - 10.44.3.9 or 10.44.9.0/24, and then whose it is.',
  );
  expect(reservedProblem("10.44.1.9 - 10.44.1.2")).toContain("Line 1");
  expect(reservedProblem("10.44.1.9 - fd00::1")).toContain("Line 1");
  expect(reservedProblem(Array.from({ length: 201 }, (_, i) => `10.1.0.${i}`).join("\n"))).toMatch(
    /^201 entries, of which the first 200 are looked at/,
  );
  expect(reservedProblem("\n \n")).toBeNull();
});
