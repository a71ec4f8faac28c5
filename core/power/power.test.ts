import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { endOf, radiosBySite, type World } from "#core/plan";
import {
  bears,
  fedBySwitch,
  feedingSwitch,
  harms,
  hoursHeld,
  isTurnedAbout,
  jumperLossDb,
  LONGEST_COPPER_M,
  monthlySunHours,
  poeDrop,
  powerChain,
  railsOf,
  solarYear,
  switchBudget,
  switchFeeds,
  usualClearness,
  winterTiltDeg,
} from "#core/power";
import { radioIn, valley, type ValleyRows } from "#core/testing";

const chainOf = (change: (rows: ValleyRows) => void, id = "sector") => {
  const { world } = valley(0, change);
  return powerChain(endOf(world, id), feedingSwitch(world, world.radios.get(id)!));
};
const sector = (rest: object) => (rows: ValleyRows) => Object.assign(radioIn(rows, "sector"), rest);

/** The chain of a sector whose model is another. */
const modelled = (rest: object, model: object) => {
  const { world } = valley(0, sector(rest));
  const end = endOf(world, "sector");
  return powerChain({ radio: end.radio, model: { ...end.model, ...model } }, null);
};

describe("power over a data cable", () => {
  test("what is lost and what arrives is what was sent, and a longer or warmer cable leaves less", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 20, max: 60, noNaN: true }),
        fc.double({ min: 1, max: 60, noNaN: true }),
        fc.double({ min: 1, max: 120, noNaN: true }),
        fc.constantFrom(22, 23, 24, 26),
        (sourceV, loadW, cableM, awg) => {
          const at = (more: number, temperatureC: number) =>
            poeDrop({ sourceV, loadW, cableM: cableM + more, awg, pairs: 2, temperatureC });
          const here = at(0, 20);
          if (!here) return expect(at(10, 20)).toBeNull();
          expect(here.voltsAtLoad * here.amps).toBeCloseTo(loadW, 9);
          expect(sourceV * here.amps).toBeCloseTo(loadW + here.lossW, 6);
          expect(at(10, 20)?.voltsAtLoad ?? 0).toBeLessThan(here.voltsAtLoad);
          expect(at(0, 40)?.voltsAtLoad ?? 0).toBeLessThan(here.voltsAtLoad);
        },
      ),
    );
    expect(() => poeDrop({ sourceV: 48, loadW: 1, cableM: 1, awg: 25, pairs: 2, temperatureC: 20 })).toThrow(
      "awg is 25; it must be one of 22, 23, 24, 26",
    );
  });

  test("a standard's later kind feeds an earlier one, never the other way, and passive feeds its own alone", () => {
    expect(bears("802.3af", "802.3at")).toBe(true);
    expect(bears("802.3at", "802.3bt")).toBe(true);
    expect(bears("802.3at", "802.3af")).toBe(false);
    expect([bears("passive24", "passive24"), bears("passive24", "802.3at"), bears("802.3at", "passive24")]).toEqual([
      ...[true, false, false],
    ]);
    expect([harms("802.3at", "802.3af"), harms("passive24", "none")]).toEqual([false, false]);
    expect([harms("802.3at", "passive24"), harms("passive24", "802.3af"), harms("802.3bt", "dc48")]).toEqual([
      ...[true, true, true],
    ]);
    expect([bears("dc48", "dc48"), bears("dc48", "802.3bt"), bears("802.3af", "none")]).toEqual([true, false, false]);
  });
});

describe("a radio's chain", () => {
  test("counts copper on both sides of the injector, and fibre not at all", () => {
    const long = chainOf(sector({ ethernetM: 90, indoorM: 14 }));
    expect(long.copperM).toBe(104);
    expect(long.tooLongM).toBe(104 - LONGEST_COPPER_M);
    const fibre = chainOf(sector({ ethernetM: 400, indoorM: 14, cableKind: "fibre" }));
    expect([fibre.copperM, fibre.tooLongM, fibre.voltsAtRadio, fibre.leastV]).toEqual([0, 0, null, null]);
    expect(chainOf(sector({ ethernetM: 60, indoorM: 40 })).tooLongM).toBe(0);
  });

  test("tells the volts that arrive with warm copper, more over thicker conductors; none with a wrong injector", () => {
    // 18 W from 50 V over 100 m of 24 AWG at 50 °C: 2·0.08422·100/2·(1 + 0.00393·30) = 9.41 Ω.
    const own = chainOf(sector({ ethernetM: 100 }));
    const loop = 8.422 * (1 + 0.00393 * 30);
    const volts = own.voltsAtRadio!;
    expect(volts + (18 / volts) * loop).toBeCloseTo(50, 6);
    expect(own.leastV).toBe(42.5);
    expect(chainOf(sector({ ethernetM: 100, cableKind: "cat6a" })).voltsAtRadio!).toBeGreaterThan(volts);
    const wrong = chainOf(sector({ injector: "passive24" }));
    expect([wrong.isRight, wrong.voltsAtRadio, wrong.isStarved]).toEqual([false, null, false]);
  });

  test("behind a switch the power comes over both lengths of copper, and a socket of a switch on direct current gives what each radio asks for", () => {
    const loopOhm = (m: number) => 0.08422 * m * (1 + 0.00393 * 30);
    const west = (switchPartId: string | null) => (rows: ValleyRows) => {
      sector({ ethernetM: 60, indoorM: 30 })(rows);
      Object.assign(rows.sites[0]!, { switchPartId });
    };
    const own = chainOf(west(null));
    const fed = chainOf(west("tornel-nudo-8-at"));
    expect(own.voltsAtRadio! + (18 / own.voltsAtRadio!) * loopOhm(60)).toBeCloseTo(50, 6);
    expect(fed.voltsAtRadio! + (18 / fed.voltsAtRadio!) * loopOhm(90)).toBeCloseTo(50, 6);
    expect(chainOf(west("tornel-nudo-6-dc")).voltsAtRadio).toBeCloseTo(fed.voltsAtRadio!, 9);
    expect([
      switchFeeds("dc48", "passive24"),
      switchFeeds("dc48", "802.3bt"),
      switchFeeds("802.3at", "passive24"),
    ]).toEqual([...[true, false, false]]);
  });

  test("an injector gives its own watts, of which the cable takes some; a later standard gives more", () => {
    const take = (injector: string) => modelled({ ethernetM: 80, injector }, { powerInput: "802.3at", loadW: 29 });
    const at = take("802.3at");
    const lossW = (50 - at.voltsAtRadio!) * (29 / at.voltsAtRadio!);
    expect(at.mostW).toBe(30);
    expect(at.overW).toBeCloseTo(29 + lossW - 30, 9);
    expect(at.overW).toBeGreaterThan(0);
    const bt = take("802.3bt");
    expect([bt.mostW, bt.overW]).toEqual([90, 0]);
  });

  test("a lead of its own drops by its length and gauge", () => {
    const lead = (rest: object) =>
      modelled({ ethernetM: 60, injector: "dc48", cableKind: "fibre", ...rest }, { powerInput: "dc48", loadW: 45 });
    const thin = lead({ leadMm2: 0.75 });
    const loop = ((2 * 0.01724 * 60) / 0.75) * (1 + 0.00393 * 30);
    expect(thin.voltsAtRadio! + (45 / thin.voltsAtRadio!) * loop).toBeCloseTo(48, 6);
    expect([thin.leastV, thin.isDry]).toEqual([40, false]);
    expect(lead({ leadMm2: 0.4, ethernetM: 95 }).isDry).toBe(true);
    expect(lead({ leadMm2: 2.5 }).voltsAtRadio!).toBeGreaterThan(thin.voltsAtRadio!);
  });

  test("says so where the cable cannot carry it at all", () => {
    const starved = chainOf((rows) => {
      Object.assign(radioIn(rows, "farm-radio"), { ethernetM: 900, injector: "passive24" });
    }, "farm-radio");
    expect([starved.isStarved, starved.voltsAtRadio]).toEqual([true, null]);
  });
});

describe("the sun", () => {
  test("stands as the books have it: outside the air at 43° north in mid-April some 33.8 MJ/m² on level ground", () => {
    // Duffie and Beckman, example 1.10.1: April 15, latitude 43°, H₀ = 33.8 MJ/m². All of it as beam gives clearness 1.
    const april = monthlySunHours(43, 0, 1)[3]!;
    expect(april * 3.6).toBeCloseTo(33.8, 0);
  });

  test("is the other half of the year's south of the equator, and more on a panel that is tilted for winter", () => {
    const [north, south] = [monthlySunHours(45, 60), monthlySunHours(-45, 60)];
    expect(north.indexOf(Math.min(...north))).toBe(11);
    expect(south.indexOf(Math.min(...south))).toBe(5);
    expect(Math.min(...monthlySunHours(45, winterTiltDeg(45)))).toBeGreaterThan(Math.min(...monthlySunHours(45, 0)));
    expect(monthlySunHours(80, 75)[11]).toBe(0);
    expect([winterTiltDeg(-37), winterTiltDeg(70)]).toEqual([52, 75]);
  });
});

describe("the clearness of the air", () => {
  test("is that of its latitude in the three months of the lowest and of the highest sun, by quarters between, the other half of the year's in the south", () => {
    const at50 = usualClearness(50);
    expect([10, 11, 0].map((month) => at50[month])).toEqual([0.28, 0.28, 0.28]);
    expect([4, 5, 6].map((month) => at50[month])).toEqual([0.44, 0.44, 0.44]);
    expect([1, 2, 3].map((month) => at50[month])).toEqual([0.32, 0.36, 0.4].map((value) => expect.closeTo(value, 9)));
    expect(usualClearness(-50)[5]).toBe(0.28);
    expect(usualClearness(-50)[11]).toBe(0.44);
    expect(usualClearness(45)[11]).toBeCloseTo((0.38 + 0.28) / 2, 9);
    expect(usualClearness(0)).toEqual(Array.from({ length: 12 }, () => 0.45));
    expect(usualClearness(85)).toEqual(usualClearness(70));
  });

  test("asks at 51° for a panel well over the one that 0.45 all year does, unless the site has its own", () => {
    const december = (clearness: number | null) => monthlySunHours(51, 66, clearness)[11]!;
    // Usual 0.274 in December: less than half of what 0.45 gives, since what is left is mostly diffuse.
    expect(december(null) / december(0.45)).toBeLessThan(0.55);
    expect(december(null)).toBeCloseTo(december(0.28 - 0.006), 9);
  });
});

describe("a solar site's year", () => {
  const solar = (rest: object): World =>
    valley(0, (rows) => Object.assign(rows.sites[0]!, { power: "solar", ...rest })).world;
  const yearOf = (world: World) => {
    const year = solarYear(world, world.sites.get("west")!, radiosBySite(world).get("west"));
    return {
      ...year,
      autonomyDays: year.autonomyDays!,
      ...{ neededPanelW: year.neededPanelW!, neededBatteryAh: year.neededBatteryAh! },
    };
  };

  test("draws what its radios and the rest draw, and what it says it needs is just enough", () => {
    const year = yearOf(solar({ panelW: 100, batteryAh: 100, otherLoadW: 4 }));
    // A bridge's end of 18 W, a sector of 18 W, the tenth that a converter from 24 V takes, and 4 W more.
    expect(year.loadW).toBeCloseTo(44, 9);
    expect(year.dailyLoadWh).toBeCloseTo(1056, 9);
    const at48 = yearOf(solar({ panelW: 100, batteryAh: 100, batteryV: 48, otherLoadW: 4 }));
    expect(at48.loadW).toBe(40);
    // One bridge's end more is one of the same again, with its share of the converter.
    const world = solar({ panelW: 100, batteryAh: 100, otherLoadW: 4 });
    const { radioModelId } = world.radios.get("west-east")!;
    const site = world.sites.get("west")!;
    const more = solarYear(world, site, [...radiosBySite(world).get("west")!, { radioModelId }]);
    expect(more.loadW).toBeCloseTo(64, 9);
    expect(more.autonomyDays! / year.autonomyDays).toBeCloseTo(44 / 64, 9);
    const enough = yearOf(solar({ panelW: year.neededPanelW, batteryAh: year.neededBatteryAh, otherLoadW: 4 }));
    expect(Math.min(...enough.dailyYieldWh)).toBeGreaterThanOrEqual(1056);
    expect(enough.autonomyDays).toBeGreaterThanOrEqual(4);
    const less = yearOf(solar({ panelW: year.neededPanelW - 50, batteryAh: year.neededBatteryAh - 50, otherLoadW: 4 }));
    expect(Math.min(...less.dailyYieldWh)).toBeLessThan(1056);
    expect(less.autonomyDays).toBeLessThan(4);
  });

  test("where nothing draws nothing is wanted, and where the sun does not rise no panel is enough: never a figure without end", () => {
    const idle = solarYear(solar({}), { ...valley(0).world.sites.get("west")!, otherLoadW: 0 }, []);
    expect([idle.autonomyDays, idle.neededPanelW, idle.neededBatteryAh]).toEqual([null, 0, 0]);
    const polar = solar({ panelW: 100, batteryAh: 100, latDeg: 75 });
    expect(solarYear(polar, polar.sites.get("west")!).neededPanelW).toBeNull();
    const flat = solar({ panelW: 100, batteryAh: 100, batteryV: 0 });
    expect(solarYear(flat, flat.sites.get("west")!).neededBatteryAh).toBeNull();
  });

  test("lithium gives more of itself than lead, and duller air asks for larger panels", () => {
    const lead = yearOf(solar({ panelW: 300, batteryAh: 200 }));
    const lithium = yearOf(solar({ panelW: 300, batteryAh: 200, batteryKind: "lithium" }));
    expect(lithium.autonomyDays / lead.autonomyDays).toBeCloseTo((0.8 * 0.9) / (0.5 * 0.85), 9);
    expect(yearOf(solar({ panelW: 300, clearness: 0.3 })).neededPanelW).toBeGreaterThan(lead.neededPanelW);
  });
});

describe("jumpers", () => {
  test("take what makers' sheets give for 10 mm foam coax, and two connectors", () => {
    // 0.4 dB less two connectors of 0.12 dB at 5.5 GHz leave some 0.34 dB/m, as sheets have it.
    const connectors = 2 * 0.05 * Math.sqrt(5.5);
    expect(jumperLossDb({ frequencyMHz: 5500, lengthM: 1 }) - connectors).toBeCloseTo(0.343, 3);
    expect(jumperLossDb({ frequencyMHz: 900, lengthM: 10 }) - 2 * 0.05 * Math.sqrt(0.9)).toBeCloseTo(1.277, 3);
    expect(jumperLossDb({ frequencyMHz: 5500, lengthM: 0 })).toBe(0);
  });

  test("a chain tells what of them the budget lacks", () => {
    const lacking = chainOf(sector({ jumperM: 1, cableLossDb: 0.1 }));
    const { frequencyMHz } = valley(0, sector({ jumperM: 1 })).world.radios.get("sector")!;
    expect(lacking.jumperDb).toBe(jumperLossDb({ frequencyMHz, lengthM: 1 }));
    expect(lacking.jumperMissingDb).toBeCloseTo(lacking.jumperDb - 0.1, 9);
    expect(chainOf(sector({ jumperM: 1, cableLossDb: 3 })).jumperMissingDb).toBe(0);
  });
});

test("a crossed lead turns the poles of passive power and of direct current about, never those of a standard", () => {
  const about = (injector: "passive24" | "dc48" | "802.3at" | "none", wiring: "straight" | "crossed") =>
    isTurnedAbout({ injector, wiring });
  expect([about("passive24", "crossed"), about("dc48", "crossed"), about("passive24", "straight")]).toEqual([
    ...[true, true, false],
  ]);
  expect([about("802.3at", "crossed"), about("none", "crossed")]).toEqual([false, false]);
});

test("indoor cable outdoors and a missing arrester are seen where copper runs outdoors alone", () => {
  const seen = (rest: object) => {
    const { isBare, lacksArrester } = chainOf(sector(rest));
    return [isBare, lacksArrester];
  };
  expect(seen({})).toEqual([false, false]);
  expect(seen({ cableKind: "cat5eIndoor", arresters: 1 })).toEqual([true, true]);
  expect(seen({ cableKind: "cat5eIndoor", arresters: 0, ethernetM: 0 })).toEqual([false, false]);
  expect(seen({ cableKind: "fibre", arresters: 0 })).toEqual([false, false]);
});

describe("what a site is fed from", () => {
  const at = (rest: object, change: (rows: ValleyRows) => void = () => undefined) => {
    const { world } = valley(0, (rows) => {
      Object.assign(rows.sites[0]!, rest);
      change(rows);
    });
    const radios = radiosBySite(world).get("west")!;
    return { world, site: world.sites.get("west")!, radios };
  };

  test("a switch feeds over copper what bears its kind of power, and says what it lacks", () => {
    const made = at({ switchPartId: "tornel-nudo-8-at" });
    expect(fedBySwitch(made.world, made.site, made.radios).map(({ id }) => id)).toEqual(["west-east", "sector"]);
    // Two of 18 W that draw half as much again as they start; the switch gives 120 W on 8 sockets.
    expect(switchBudget(made.world, made.site, made.radios)).toMatchObject({
      ...{ loadW: 36, startW: 54, overW: 0, overPorts: 0, startsInTurn: false },
    });
    const weak = at({ switchPartId: "tornel-nudo-8-at" }, (rows) => {
      radioIn(rows, "sector").cableKind = "fibre";
      for (const one of rows.equipment)
        if (one.kind === "part" && one.id === "tornel-nudo-8-at") Object.assign(one.body, { watts: 20, ports: 1 });
    });
    expect(switchBudget(weak.world, weak.site, weak.radios)).toMatchObject({
      ...{ loadW: 18, startW: 27, overW: 0, overPorts: 0, startsInTurn: true },
    });
    const none = at({});
    expect(switchBudget(none.world, none.site, none.radios)).toBeNull();
    expect(fedBySwitch(none.world, none.site, none.radios)).toEqual([]);
  });

  test("rails are the voltages that radios are made for; a converter stands before those that the battery lacks", () => {
    const made = at({ batteryV: 24 }, (rows) => (radioIn(rows, "sector").radioModelId = "halvorn-duna-9"));
    expect(railsOf(made.world, made.site, made.radios)).toEqual([
      { volts: 24, radios: 1, loadW: 7, converterW: 0 },
      { volts: 48, radios: 1, loadW: 18, converterW: expect.closeTo(2, 9) },
    ]);
  });

  test("a battery behind the mains holds its energy over the load, less what the inverter takes", () => {
    const made = at({ upsWh: 1000, otherLoadW: 4 });
    expect(hoursHeld(made.world, made.site, made.radios)).toBeCloseTo((1000 * 0.85) / 40, 9);
    const none = at({ upsWh: 0 });
    expect(hoursHeld(none.world, none.site, none.radios)).toBeNull();
  });
});
