import { describe, expect, test } from "@jest/globals";
import { libraryFor } from "#core/catalogue";
import { FAMILIES } from "#core/procedures";
import {
  isPartsCsv,
  readPartsCsv,
  writePartsCsv,
  readAntennaCsv,
  radioFileSchema,
  readProcedureJson,
  readRadioJson,
  writeAntennaCsv,
  writeProcedureJson,
  writeRadioJson,
} from "#formats/kit";

const library = libraryFor("p");
const antennas = library.flatMap((item) => (item.kind === "antenna" ? [item.body] : []));
const radios = library.flatMap((item) => (item.kind === "radio" ? [item.body] : []));
const bytes = (text: string) => new TextEncoder().encode(text);

test.each(antennas.map((antenna) => [antenna.id, antenna] as const))(
  "%s goes out as a table and comes back the same",
  (_, antenna) => {
    const back = readAntennaCsv(bytes(writeAntennaCsv(antenna)), () => antenna.id);
    expect(back.errors).toEqual([]);
    expect(back.item).toEqual(antenna);
  },
);

const small = [
  "row,polarization,at,value",
  "maker,,,Ostrel",
  "model,,,Pala 5",
  "shape,,,panel",
  "bandLowMHz,,,5150",
  "bandHighMHz,,,5850",
  "frontToBackDb,,,28",
  "gain,HV,5500,19",
  "azimuth,HV,-90,25",
  "azimuth,HV,0,0",
  "azimuth,HV,90,24",
  "elevation,V,-90,26",
  "elevation,V,0,0",
  "elevation,V,90,26",
];

test("a short table of one polarization is enough; cuts are closed behind", () => {
  const { item } = readAntennaCsv(bytes(small.join("\n")), () => "own");
  expect(item).toMatchObject({ id: "own", maker: "Ostrel", crossPolarDb: 20 });
  expect(item!.azimuthCuts.H).toEqual({ anglesDeg: [-180, -90, 0, 90, 180], lossDb: [25, 25, 0, 24, 24] });
  expect(item!.elevationCuts.H).toEqual(item!.elevationCuts.V);
  const german = small
    .map((line) => line.replaceAll(",", ";"))
    .join("\n")
    .replace("5500;19", "5500;19,5");
  expect(readAntennaCsv(bytes(german), () => "own").item!.gainAcrossBand[0]!.vDbi).toBe(19.5);
});

test("what is wrong is named by row, field, value and bound", () => {
  const read = (lines: string[]) => readAntennaCsv(bytes(lines.join("\n")), () => "own").errors;
  expect(read(["maker,model", "a,b"])[0]).toMatchObject({ row: 1, field: "header" });
  expect(read([...small, "azimuth,H,200,3"])).toEqual([
    { row: 15, field: "at", value: "200", reason: "must lie between -180 and 180" },
  ]);
  expect(read([...small, "gain,X,5500,3"])[0]).toMatchObject({ field: "polarization", value: "X" });
  expect(read([...small, "colour,,,blue"])[0]).toMatchObject({ field: "row", value: "colour" });
  expect(read(small.filter((line) => !line.startsWith("frontToBack")))[0]).toMatchObject({
    field: "frontToBackDb",
    reason: "is missing",
  });
  expect(read(small.filter((line) => !line.startsWith("azimuth")))[0]).toMatchObject({ field: "azimuth" });
});

test("radios go out as JSON and come back the same; faults name the radio, its field and the value", () => {
  const text = writeRadioJson(radios);
  expect(readRadioJson(bytes(text))).toEqual({ item: radios, errors: [] });
  const broken = JSON.parse(text) as { radios: Record<string, unknown>[] };
  broken.radios[2]!.powerMaxDbm = 900;
  delete broken.radios[3]!.model;
  const { errors } = readRadioJson(bytes(JSON.stringify(broken)));
  expect(errors.map(({ row, field, value }) => [row, field, value])).toEqual([
    [3, "powerMaxDbm", "900"],
    [4, "model", "nothing"],
  ]);
  expect(readRadioJson(bytes("{"))).toMatchObject({ item: null, errors: [{ field: "file" }] });
  const twice = writeRadioJson([radios[0]!, radios[0]!]);
  expect(readRadioJson(bytes(twice)).errors[0]!.reason).toContain("twice");
});

test("the published schema describes every field of a radio", () => {
  const schema = radioFileSchema() as {
    properties: { radios: { items: { properties: Record<string, unknown>; required: string[] } } };
  };
  const { properties, required } = schema.properties.radios.items;
  expect(Object.keys(properties).sort()).toEqual(Object.keys(radios[0]!).sort());
  // What older sheets did not have may be left out.
  expect(required).not.toContain("rangeLimitKm");
  expect(required).toContain("modulations");
});

test("a receive beam with a fact missing names it", () => {
  const adaptive = antennas.find(({ receiveBeam }) => receiveBeam !== null)!;
  const lines = writeAntennaCsv(adaptive).split("\r\n");
  const cut = lines.filter((line) => !line.startsWith("beamSteersDeg"));
  expect(cut).toHaveLength(lines.length - 1);
  expect(readAntennaCsv(bytes(cut.join("\r\n")), () => "x").errors).toEqual([
    { row: 0, field: "beamSteersDeg", value: "", reason: "is missing: a receive beam needs all four" },
  ]);
});

describe("parts", () => {
  const parts = library.flatMap((item) => (item.kind === "part" ? [item.body] : []));

  test("a table of parts comes back the same, with a decimal comma too", () => {
    const text = writePartsCsv(parts);
    expect(isPartsCsv(bytes(text))).toBe(true);
    expect(isPartsCsv(bytes(writeAntennaCsv(antennas[0]!)))).toBe(false);
    expect(readPartsCsv(bytes(text), () => "x")).toEqual({ item: parts, errors: [] });
    const comma = "maker;model;kind;priceEur;weightKg\nTornel;Garra;bracket;12,50;1,25\n";
    expect(readPartsCsv(bytes(comma), () => "own").item).toEqual([
      expect.objectContaining({ id: "own", priceEur: 12.5, weightKg: 1.25, packOf: 1, poleMm: null }),
    ]);
  });

  test("each row that cannot be taken is named with its field and value, and nothing is taken", () => {
    const text = [
      "id,maker,model,kind,priceEur,poleFromMm,poleToMm",
      "a,Tornel,Garra,bracket,12,40,120",
      "a,Tornel,Otra,bracket,12,40,120",
      "c,Tornel,Otra,gadget,12,,",
      "d,Tornel,Otra,bracket,cheap,40,",
    ].join("\n");
    const { item, errors } = readPartsCsv(bytes(text), () => "x");
    expect(item).toBeNull();
    expect(errors.map(({ row, field, value }) => [row, field, value])).toEqual([
      [3, "id", "a"],
      [4, "kind", "gadget"],
      [5, "priceEur", "cheap"],
      [5, "poleToMm", ""],
    ]);
    expect(readPartsCsv(bytes("maker,model\nx,y"), () => "x").errors.map(({ reason }) => reason)).toEqual([
      "lacks the column kind",
      "lacks the column priceEur",
    ]);
    expect(readPartsCsv(bytes("maker,model,kind,priceEur\n"), () => "x").errors[0]!.reason).toBe("holds no part");
  });
});

test("procedures go out as JSON and come back the same; faults name the procedure, its field and what is wrong in plain words", () => {
  expect(readProcedureJson(bytes(writeProcedureJson(FAMILIES)))).toEqual({ item: FAMILIES, errors: [] });
  const broken = JSON.parse(writeProcedureJson(FAMILIES.slice(0, 2))) as {
    procedures: { name: string; steps: Record<string, unknown>[] }[];
  };
  broken.procedures[1]!.steps[0]!.torqueNm = -3;
  broken.procedures[0]!.name = " ";
  expect(readProcedureJson(bytes(JSON.stringify(broken))).errors).toEqual([
    { row: 1, field: "name", value: '" "', reason: "must be at least 1 characters" },
    { row: 2, field: "steps.0.torqueNm", value: "-3", reason: "must be over 0" },
  ]);
  const [cut] = readProcedureJson(bytes('{"kind":')).errors;
  expect(cut!.reason).toBe("is no JSON: it ends too soon, in line 1");
  expect(readProcedureJson(bytes(writeRadioJson(radios))).errors[0]).toMatchObject({ field: "kind" });
});
