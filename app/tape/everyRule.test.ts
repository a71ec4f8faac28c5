import { expect, test } from "@jest/globals";
import { createElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { faultsOf } from "#core/findings";
import { crewSheet } from "#core/install";
import { answerLink } from "#core/link";
import { linkEnds, withPatches, setPatch, type World } from "#core/plan";
import { OWN_RULES, RULE_SETS, ruleSetById } from "#core/regulation";
import { configSheet, sheetContext } from "#core/staging";
import { valley } from "#core/testing";
import { AvailabilityView } from "./AvailabilityView";
import { TapeView } from "./TapeView";

const made = valley();
const profile = made.between(made.world.sites.get("west")!, made.world.sites.get("east")!);
const DATE = new Date("2026-06-01T00:00:00Z");

/** Own rules that leave all open: no cap of any kind, one with a cap on conducted power alone, one on EIRP alone. */
const bare = { ...ruleSetById("en").rules[0]!, eirpDensity: null, flags: [], widthsMHz: [], rasterMHz: null };
const OWN = [
  [],
  [{ ...bare, bandMHz: [100, 100_000] as [number, number], eirp: { kind: "byDensity" as const } }],
  [{ ...bare, bandMHz: [100, 100_000] as [number, number], eirp: { kind: "byDensity" as const }, conductedDbm: 10 }],
  [{ ...bare, bandMHz: [100, 100_000] as [number, number], eirp: { kind: "fixed" as const, dbm: 20 } }],
];
const PLANS = [
  ...RULE_SETS.map(({ id }) => ({ ruleSetId: id, ownRules: [] })),
  ...OWN.map((ownRules) => ({ ruleSetId: OWN_RULES, ownRules })),
];

/** What no sheet may ever say. */
const NONSENSE = /NaN|undefined|Infinity|null/;

/** What is read of one bridge on a channel: both tapes; with `all` its availability, its faults, the crew's and the staging sheets. */
function sheetsOf(world: World, all: boolean): string[] {
  const link = world.links.get("bridge")!;
  const { a, b } = linkEnds(world, link);
  const answer = answerLink({ plan: world.plan, kind: link.kind, foliageDepthM: 0, a, b, profile });
  const { path } = answer;
  if (!path) throw new Error(`no answer: ${JSON.stringify(answer.problem)}`);
  const tapes = [path.aToB, path.bToA].map((tape) =>
    renderToStaticMarkup(createElement(TapeView, { tape, caption: "Tape" })),
  );
  if (!all) return tapes;
  const sheets = crewSheet(world.plan, a, b, path, { azimuthDeg: 90, backAzimuthDeg: 270 }, DATE);
  return [
    ...tapes,
    renderToStaticMarkup(createElement(AvailabilityView, { plan: world.plan, a, b, answer })),
    ...faultsOf(world, link, answer, null).map(({ what, why }) => `${what} ${why}`),
    ...[sheets.a, sheets.b].map(
      ({ expectedChainDbm, accept }) => `${expectedChainDbm} ${accept.fromDbm} ${accept.toDbm}`,
    ),
    JSON.stringify(
      Object.values(configSheet(world, a.radio.id, sheetContext(world)).settings).filter((v) => v !== null),
    ),
  ];
}

test("every sheet can be read for every rule set, radio, width and corner of a band", () => {
  let count = 0;
  for (const plan of PLANS)
    for (const model of made.world.radioModels.values()) {
      const antenna = [...made.world.antennaModels.values()].find(
        ({ bandMHz }) => bandMHz[0] < model.bandMHz[1] && bandMHz[1] > model.bandMHz[0],
      )!;
      const edges = RULE_SETS.flatMap(({ rules }) => rules.flatMap(({ bandMHz }) => bandMHz)).filter(
        (mhz) => mhz > model.bandMHz[0] && mhz < model.bandMHz[1],
      );
      const [low, high] = model.bandMHz;
      const widths = plan.ruleSetId === OWN_RULES ? model.widthsMHz.slice(0, 1) : model.widthsMHz;
      for (const widthMHz of widths)
        for (const frequencyMHz of new Set([low, (low + high) / 2, high, ...edges])) {
          const kit = { radioModelId: model.id, antennaModelId: antenna.id };
          const world = withPatches(made.world, [
            setPatch("plans", made.world.plan.id, plan),
            setPatch("carriers", "west-east", { frequencyMHz, widthMHz }),
            ...["west-east", "east-west"].map((id) => setPatch("radios", id, { ...kit, carrierId: "west-east" })),
          ]);
          for (const text of sheetsOf(world, frequencyMHz === low)) {
            if (NONSENSE.test(text))
              throw new Error(`${plan.ruleSetId} ${model.id} ${frequencyMHz}/${widthMHz}: ${text}`);
            count++;
          }
        }
    }
  expect(count).toBeGreaterThan(2000);
});

test("EN rules, a bridge at 5495 MHz widened to 80 MHz: the tape says that no rule covers it", () => {
  const world = withPatches(made.world, [
    setPatch("plans", made.world.plan.id, { ruleSetId: "en" }),
    setPatch("carriers", "west-east", { frequencyMHz: 5495, widthMHz: 80 }),
    setPatch("radios", "east-west", { carrierId: "west-east" }),
  ]);
  const [tape] = sheetsOf(world, false);
  expect(tape).toContain("has no rule for 5455–5535 MHz");
});
