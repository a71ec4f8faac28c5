import { expect, test } from "@jest/globals";
import { antennaModelSchema } from "#core/antenna";
import { libraryFor } from "#core/catalogue";
import { newPlan, planSchema } from "#core/plan";
import { radioModelSchema } from "#core/radio";

const library = libraryFor("p");
const antenna = library.flatMap((item) => (item.kind === "antenna" ? [item.body] : []))[0]!;
const radio = library.flatMap((item) => (item.kind === "radio" ? [item.body] : []))[0]!;

test("a plan written before schools, seasons and own rules reads as it was meant then", () => {
  const plan = newPlan({ id: "p", name: "P", createdAt: "2026-01-01T00:00:00Z", rainRate001MmPerH: 32 });
  const old: Record<string, unknown> = { ...plan };
  for (const name of ["ownRules", "dN1NPerKm", "clearanceSchool", "climate", "season", "pointingErrorDeg"])
    delete old[name];
  expect(planSchema.parse(old)).toEqual(plan);
});

test("a sheet with one gain for both polarizations reads as two equal ones", () => {
  const old = { ...antenna, gainAcrossBand: [{ frequencyMHz: 5500, gainDbi: 12 }] };
  expect(antennaModelSchema.parse(old).gainAcrossBand).toEqual([{ frequencyMHz: 5500, hDbi: 12, vDbi: 12 }]);
});

test("sheets that contradict themselves do not pass", () => {
  const refuses = (change: object, said: RegExp) =>
    expect(antennaModelSchema.safeParse({ ...antenna, ...change }).error?.message).toMatch(said);
  refuses({ gainAcrossBand: [] }, />=1|Too small/);
  refuses(
    {
      gainAcrossBand: [
        { frequencyMHz: 5500, hDbi: 1, vDbi: 1 },
        { frequencyMHz: 5400, hDbi: 1, vDbi: 1 },
      ],
    },
    /frequencies must rise/,
  );
  refuses({ azimuthCuts: { ...antenna.azimuthCuts, H: { anglesDeg: [-180, 0], lossDb: [3, 0] } } }, /3/);
  refuses(
    { azimuthCuts: { ...antenna.azimuthCuts, H: { anglesDeg: [-90, 0, 90], lossDb: [3, 0, 3] } } },
    /−180 to 180/,
  );
  refuses(
    { azimuthCuts: { ...antenna.azimuthCuts, H: { anglesDeg: [-180, 0, 180], lossDb: [3, 0] } } },
    /same length|3/,
  );
});

test("what a radio's sheet left out before is filled in with usual figures", () => {
  const old: Record<string, unknown> = { ...radio };
  for (const name of ["rangeLimitKm", "adjacentRejectionDb", "ports", "poleMm", "alignmentAid"]) delete old[name];
  expect(radioModelSchema.parse(old)).toMatchObject({
    rangeLimitKm: 100,
    adjacentRejectionDb: 20,
    ports: [],
    poleMm: [25, 90],
    alignmentAid: "page",
  });
});
