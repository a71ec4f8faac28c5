import { expect, test } from "@jest/globals";
import { valley } from "#core/testing";
import {
  declared,
  fieldOf,
  fieldsOf,
  fieldWord,
  jsonSchemaOf,
  lackedBefore,
  LIST_KINDS,
  newSite,
  pointedAt,
  REFERENCES,
  ROW_KINDS,
  ROW_SCHEMAS,
  startOf,
  USUAL,
  valueWord,
} from "#core/plan";

test("every field of every kind says what it is called, and no two of a kind are called alike", () => {
  for (const kind of ROW_KINDS) {
    const words = fieldsOf(kind).map(({ name, facts }) => {
      expect(facts.label).not.toBe(name);
      return fieldWord(kind, name);
    });
    // A feed and what it carries share a word, and a capacity says its unit.
    const twice = words.filter((word, i) => words.indexOf(word) !== i);
    expect([kind, ...twice]).toEqual(kind === "sites" ? ["sites", "feed"] : [kind]);
  }
});

test("every field that points at rows points at kinds that are declared, before its own or of its own", () => {
  for (const kind of ROW_KINDS)
    for (const { targets, facts, name, isList } of REFERENCES[kind])
      for (const target of targets) {
        expect(ROW_KINDS.indexOf(target)).toBeGreaterThanOrEqual(0);
        expect(ROW_KINDS.indexOf(target)).toBeLessThanOrEqual(ROW_KINDS.indexOf(kind));
        // What is emptied can be empty.
        if (facts.whenGone === "clear" && !isList)
          expect(fieldOf(kind, name)!.schema.safeParse(null).success).toBe(true);
      }
  // A field that ends in Id points at something, unless it names the row itself or what is no row.
  const free = ["id", "planId", "ruleSetId"];
  for (const kind of ROW_KINDS)
    for (const { name, facts } of fieldsOf(kind))
      if (/Ids?$/.test(name) && !free.includes(name))
        expect([kind, name, facts.refersTo?.whenGone]).toContainEqual(expect.stringMatching(/^(remove|clear|refuse)$/));
});

test("a photograph points at a place of the kind that it says", () => {
  const [owner] = REFERENCES.photos;
  expect(pointedAt(owner!, { ownerKind: "site", ownerId: "x" })).toEqual({ kind: "sites", ids: ["x"] });
  expect(pointedAt(owner!, { ownerKind: "subscriber", ownerId: "x" })).toEqual({ kind: "subscribers", ids: ["x"] });
});

test("what a new row leaves out is what its schema makes of it, and what it starts with is a row", () => {
  const { rows } = valley();
  const site: Record<string, unknown> = { ...rows.sites[0]! };
  for (const name of Object.keys(USUAL.sites)) delete site[name];
  expect(ROW_SCHEMAS.sites.parse(site)).toEqual({ ...site, ...USUAL.sites });
  expect(USUAL.sites).toMatchObject({ otherLoadW: 5, batteryV: 24, switchPartId: null, clientSubnet: "" });
  expect(Object.keys(USUAL.links).sort()).toEqual(["growthStage", "mustDownMbps", "mustUpMbps"]);
  const fresh = newSite({ id: "s", planId: "valley", name: "s", latDeg: 1.23456789, lonDeg: 2 });
  expect(ROW_SCHEMAS.sites.parse(fresh)).toEqual(fresh);
  expect(fresh).toMatchObject({ latDeg: 1.234568, structureHeightM: 15, freeMounts: 4, power: "mains" });
  expect(startOf("plans")).toMatchObject({ kFactor: 4 / 3, proofFloorDbm: -65, gustMPerS: 40 });
});

test("rows of an earlier schema lack what came since, with what they say of then", () => {
  expect(lackedBefore("subscribers", 2)).toEqual({ status: "asked", demandUpMbps: 0, tier: "" });
  expect(lackedBefore("subscribers", 3)).toEqual({});
  expect(lackedBefore("carriers", 7)).toEqual({ arriveAtDbm: null, downShare: null });
  expect(lackedBefore("carriers", 11)).toEqual({ downShare: null });
  expect(Object.keys(lackedBefore("radios", 16)).sort()).toEqual(["arresters", "jumperM", "leadMm2", "wiring"]);
});

test("fields and values are told in words", () => {
  expect(fieldWord("sites", "structureHeightM")).toBe("height");
  expect([fieldWord("sites", "vlan"), fieldWord("radios", "leadMm2")]).toEqual(["VLAN", "DC lead"]);
  expect(fieldWord("sites", "unheardOf")).toBe("unheardOf");
  const said = (value: unknown) => valueWord("sites", "notes", value);
  expect([said(-3.5), said(true), said(null), said(""), said("mast")]).toEqual(["−3.5", "yes", "none", "none", "mast"]);
  expect(said([[1, 2, 3].concat(Array<number>(60).fill(4))])).toMatch(/^\[\[1,2,3,.*…$/);
  expect(valueWord("visits", "climb", "toAsk")).toBe("to be asked");
  expect(declared("subscribers").many).toBe("customers");
});

test("a kind's JSON Schema names each field, its unit and its bounds", () => {
  const { properties } = jsonSchemaOf("sites") as { properties: Record<string, object> };
  expect(properties.structureHeightM).toMatchObject({ title: "Structure height", description: "In m.", maximum: 500 });
  for (const kind of LIST_KINDS) expect(JSON.stringify(jsonSchemaOf(kind)).length).toBeGreaterThan(100);
});
