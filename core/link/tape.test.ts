import { expect, test } from "@jest/globals";
import { answerOf } from "#core/outcome";
import { chainWords, tapeLines, type Tape, type TapeLine } from "#core/link";
import { radioIn, valley, type ValleyRows } from "#core/testing";

/** The tape toward the far end of a link of the valley, changed and under a ridge. */
function tapeTo(change: (rows: ValleyRows) => void, linkId = "bridge", ridgeM = 0): Tape {
  const { world, between } = valley(ridgeM, change);
  return answerOf(world, world.links.get(linkId)!, between).path!.aToB;
}
const lineOf = (tape: Tape, key: string): TapeLine | undefined => tapeLines(tape).find((line) => line.key === key);
const inputsOf = (tape: Tape, key: string) => new Map(lineOf(tape, key)?.inputs);

/** A link on which every line stands: cables, patterns, trees, walls, polarization, back-off and two chains. */
const full = tapeTo((rows) => {
  rows.plan.pointingErrorDeg = 1;
  rows.plan.season = "bare";
  rows.links.find(({ id }) => id === "access")!.foliageDepthM = 12;
  rows.subscribers[0]!.behind = "traditional";
  Object.assign(radioIn(rows, "sector"), { cableLossDb: 1.5, polarization: "V", txPowerDbm: 19, azimuthDeg: 120 });
  Object.assign(radioIn(rows, "farm-radio"), { cableLossDb: 0.7, polarization: "X45" });
}, "access");

test("every line of a full tape has its place, and each step leads to the next total", () => {
  const lines = tapeLines(full);
  expect(lines.map(({ key, label }) => [key, label])).toEqual([
    ["power", "Transmit power"],
    ["cable", "Cable and connectors"],
    ["gain", "Antenna gain"],
    ["eirp", "EIRP"],
    ["offA", "Off west's boresight"],
    ["freeSpace", "Free space"],
    ["gas", "Oxygen and vapour"],
    ["diffraction", "Diffraction"],
    ["foliage", "Through trees"],
    ["wall-farm-radio", "Into farm"],
    ["farGain", "Far antenna gain"],
    ["offB", "Off farm's boresight"],
    ["farCable", "Far cable and connectors"],
    ["total", "Received level, all chains"],
    ["split", "Shared by the chains"],
    ["level", "Received level, each chain"],
    ["noise", "Noise floor, one chain"],
    ["snr", "Signal to noise, each chain"],
    ["rate", `Throughput, ${full.modulation?.name ?? "no modulation holds"}`],
    ["margin", "Fade margin"],
  ]);
  let total = 0;
  for (const { stepDb, total: printed, key } of lines) {
    if (stepDb !== null) total += stepDb;
    if (stepDb !== null || ["eirp", "total", "level"].includes(key))
      expect([key, printed]).toEqual([key, expect.closeTo(total, 9)]);
  }
  const step = (key: string) => lineOf(full, key)!.stepDb;
  expect([step("power"), step("cable"), step("farCable")]).toEqual([19, -1.5, -0.7]);
  expect(step("split")).toBeCloseTo(-3.0103, 4);
  expect(step("freeSpace")).toBe(-full.question.path.freeSpaceDb);
  expect(step("foliage")).toBe(-full.question.path.trees.lossDb);
  expect(step("offA")).toBe(-full.fromOffDb);
  expect(step("wall-farm-radio")).toBe(-full.toWallDb);
});

test("what only states a figure states it with its unit", () => {
  const stated = tapeLines(full).filter(({ stepDb }) => stepDb === null);
  expect(stated.map(({ key, total, unit }) => [key, total, unit])).toEqual([
    ["eirp", full.eirpDbm, "dBm"],
    ["total", full.totalLevelDbm, "dBm"],
    ["level", full.chainLevelDbm, "dBm"],
    ["noise", full.noiseDbm, "dBm"],
    ["snr", full.snrDb, "dB"],
    ["rate", full.rateMbps, "Mbit/s"],
    ["margin", full.fadeMarginDb, "dB"],
  ]);
});

test("inputs say what was set, where from, and with a real minus", () => {
  expect([...inputsOf(full, "power")]).toEqual([
    ["radio", "Brisote Vela 5"],
    ["range", "0.0 to 27.0 dBm"],
  ]);
  expect(inputsOf(full, "offA").get("azimuth off")).toMatch(/^−?\d+\.\d°$/);
  // The sector stands where it was set; the farm's radio is aimed by hand, and a degree is allowed for that.
  expect(inputsOf(full, "offA").has("pointing error allowed for")).toBe(false);
  expect(inputsOf(full, "offB").get("pointing error allowed for")).toBe("1°");
  expect([...inputsOf(full, "foliage")].slice(0, 2)).toEqual([
    ["depth", "12 m, as set on the link"],
    ["season", "bare, 100 % sheds its leaves"],
  ]);
  expect(inputsOf(full, "wall-farm-radio").get("construction")).toBe("traditional");
  expect(inputsOf(full, "level").get("all chains together")).toBe(`−${Math.abs(full.totalLevelDbm).toFixed(1)} dBm`);
  expect(inputsOf(full, "level").get("overload")).toBe("−30.0 dBm");
  expect(inputsOf(full, "margin").get("sensitivity")).toBe(`−${Math.abs(full.sensitivityDbm).toFixed(1)} dBm`);
  expect(inputsOf(full, "margin").get("wanted")).toBe("10.0 dB");
  expect(inputsOf(full, "noise").get("because")).toBe("as set on the radio");
});

test("a line that takes nothing is not printed", () => {
  const plain = tapeTo((rows) => {
    for (const radio of rows.radios) Object.assign(radio, { txPowerDbm: 0 });
  });
  const keys = tapeLines(plain).map(({ key }) => key);
  for (const key of [
    "cable",
    "offA",
    "offB",
    "foliage",
    "wall-farm-radio",
    "polarization",
    "farCable",
    "backoff",
    "rain",
  ])
    expect(keys).not.toContain(key);
  expect(keys).toEqual(expect.arrayContaining(["total", "split"]));
});

test("back-off is printed with the modulation that asks for it, and the greatest power", () => {
  const loud = tapeTo((rows) => void rows.radios.forEach((radio) => (radio.txPowerDbm = 27)));
  expect(loud.backoffDb).toBeGreaterThan(0);
  expect(lineOf(loud, "backoff")).toMatchObject({
    label: `Back-off for ${loud.modulation!.name}`,
    stepDb: -loud.backoffDb,
    inputs: [["greatest power", `${loud.question.from.model.powerMaxDbm}.0 dBm`]],
  });
});

test("which chain a level is meant for: each, the one that is polarized so, or the only one", () => {
  const facing = (a: "H" | "V" | "HV" | "X45", b: "H" | "V" | "HV" | "X45") =>
    tapeTo((rows) => {
      radioIn(rows, "west-east").polarization = a;
      radioIn(rows, "east-west").polarization = b;
    });
  expect(chainWords(facing("HV", "HV"))).toBe("each chain");
  expect(chainWords(facing("V", "X45"))).toBe("each chain");
  expect(chainWords(facing("V", "V"))).toBe("its one chain");
  const oneOfTwo = facing("H", "HV");
  expect(chainWords(oneOfTwo)).toBe("the H chain");
  expect(inputsOf(oneOfTwo, "level").get("the other chain")).toBe(
    `−${Math.abs(oneOfTwo.chainLevelDbm - oneOfTwo.question.to.antenna.crossPolarDb).toFixed(1)} dBm, by the antenna's isolation`,
  );
  expect(inputsOf(facing("HV", "HV"), "level").has("the other chain")).toBe(false);
  expect(lineOf(facing("HV", "V"), "polarization")!.stepDb).toBeCloseTo(-3.0103, 4);
});

test("a rate says its modulation, or why nothing passes", () => {
  const label = (change: (rows: ValleyRows) => void) => lineOf(tapeTo(change), "rate")!.label;
  expect(label((rows) => void (radioIn(rows, "east-west").widthMHz = 40))).toBe("Throughput, the ends do not match");
  expect(label((rows) => void (rows.sites[1]!.lonDeg = 20.0006))).toBe("Throughput, the receiver is overloaded");
  expect(label((rows) => void (radioIn(rows, "east-west").interferenceDb = 70))).toBe(
    "Throughput, no modulation holds",
  );
  const slowPort = tapeTo((rows) => {
    for (const item of rows.equipment)
      if (item.kind === "radio" && item.id === "brisote-tramo-5") item.body = { ...item.body, portMbps: 10 };
  });
  expect(lineOf(slowPort, "rate")!.label).toBe(
    `Throughput, ${slowPort.modulation!.name}, as much as the socket carries`,
  );
  expect(inputsOf(slowPort, "rate").get("over the air")).toBe(
    `${slowPort.airRateMbps!.toFixed(0)} Mbit/s: the data socket carries less`,
  );
  const strong = tapeTo((rows) => void (rows.sites[1]!.lonDeg = 20.0006));
  expect(inputsOf(strong, "level").get("overload")).toBe(
    `−30.0 dBm: ${strong.overloadDb.toFixed(1)} dB too strong at full power`,
  );
});

test("the EIRP line names cap, reason, licence and what the rules ask for", () => {
  const dfs = tapeTo((rows) => void rows.radios.forEach((radio) => (radio.frequencyMHz = 5600)));
  expect([...inputsOf(dfs, "eirp")].slice(0, 2)).toEqual([
    ["cap", "30.0 dBm EIRP"],
    ["because", expect.any(String)],
  ]);
  expect(lineOf(dfs, "eirp")!.inputs.filter(([name]) => name === "asks for")).toHaveLength(2);
  expect(lineOf(dfs, "eirp")!.source).toBe("47 CFR 15.407; check with your regulator");
  const nowhere = tapeTo((rows) => void rows.radios.forEach((radio) => (radio.frequencyMHz = 5400)));
  expect(inputsOf(nowhere, "eirp").get("cap")).toBe("no rule covers this channel");
  expect(inputsOf(nowhere, "eirp").has("licence")).toBe(false);
});
