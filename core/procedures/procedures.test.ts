import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { libraryFor } from "#core/catalogue";
import { DIAGRAMS, procedureSchema, type Step } from "#core/plan";
import {
  circleWords,
  contradictionOf,
  drawingOf,
  EXAMPLE_END,
  FAMILIES,
  familiesOf,
  GENERAL,
  mergeProcedures,
  minutesOf,
  procedureFor,
  toolsOf,
} from "#core/procedures";

const WHERE = { ruleSetId: "cfr47", looks: "down" } as const;
const procedure = (id: string, steps: object[]) => procedureSchema.parse({ id, name: id, steps });
const step = (id: string, rest: object = {}) => ({ id, text: id, ...rest });
const ids = (steps: readonly Step[] | null) => steps!.map(({ id }) => id);

/** Whether every step that goes on with another stands behind it, with none between that does not go on with it as well. */
function standsBehind(steps: readonly Step[]): boolean {
  const at = new Map(steps.map(({ id }, i) => [id, i]));
  return steps.every((one, i) => {
    const start = one.while === null ? i : (at.get(one.while) ?? i);
    return start <= i && steps.slice(start + 1, i).every((between) => between.while !== null);
  });
}

/** Whether an order keeps what every step asks. */
function keepsAll(steps: readonly Step[]): boolean {
  const at = new Map(steps.map(({ id }, i) => [id, i]));
  return (
    steps.every(
      ({ before, after }, i) =>
        before.every((other) => (at.get(other) ?? Infinity) > i) && after.every((other) => (at.get(other) ?? -1) < i),
    ) && standsBehind(steps)
  );
}

describe("merging", () => {
  test("keeps the order in which the procedures tell their steps wherever no constraint decides", () => {
    const merged = mergeProcedures(
      [procedure("x", [step("a"), step("b"), step("c")]), procedure("y", [step("d", { before: ["b"] }), step("e")])],
      WHERE,
    );
    expect(ids(merged.steps)).toEqual(["a", "d", "b", "c", "e"]);
  });

  test("lets the particular step take the general one's place, with the constraints of both", () => {
    const merged = mergeProcedures(
      [
        procedure("general", [step("a"), step("b", { after: ["a"] }), step("c")]),
        procedure("own", [step("b", { text: "own way", before: ["a2"] }), step("a2")]),
      ],
      WHERE,
    );
    expect(merged.steps!.find(({ id }) => id === "b")!.text).toBe("own way");
    expect(ids(merged.steps)).toEqual(["a", "b", "c", "a2"]);
  });

  test("leaves out what is for other rule sets or the other way to look, with whatever hangs on it", () => {
    const own = procedure("x", [
      step("timing", { when: { ruleSetIds: ["cfr47"], looks: null } }),
      step("up", { when: { ruleSetIds: [], looks: "up" } }),
      step("power", { after: ["timing", "up"] }),
    ]);
    expect(ids(mergeProcedures([own], WHERE).steps)).toEqual(["timing", "power"]);
    expect(ids(mergeProcedures([own], { ruleSetId: "en", looks: "up" }).steps)).toEqual(["up", "power"]);
  });

  test("puts what goes on meanwhile right behind, and all that it waits for before both", () => {
    const merged = mergeProcedures(
      [
        procedure("x", [
          step("hold"),
          step("grease"),
          step("screw", { while: "hold", after: ["grease"] }),
          step("look"),
        ]),
      ],
      WHERE,
    );
    expect(ids(merged.steps)).toEqual(["grease", "hold", "screw", "look"]);
    const both = procedure("x", [step("a", { while: "b" }), step("b", { while: "a" })]);
    expect(mergeProcedures([both], WHERE).steps).toBeNull();
  });

  test("refuses what contradicts itself by naming the shortest circle", () => {
    const merged = mergeProcedures(
      [
        procedure("x", [
          step("seal", { before: ["aim"] }),
          step("aim", { before: ["cover"] }),
          step("cover", { before: ["seal"] }),
          step("other", { after: ["seal"] }),
        ]),
        procedure("y", [step("aim", { before: ["seal"] })]),
      ],
      WHERE,
    );
    expect(merged.steps).toBeNull();
    expect(ids(merged.circle).sort()).toEqual(["aim", "seal"]);
    expect(circleWords(merged.circle!)).toMatch(
      /^(aim waits for seal waits for aim|seal waits for aim waits for seal)$/,
    );
  });

  test("over any set of constraints keeps every one of them, or names a circle of steps that each wait for the next", () => {
    const names = Array.from({ length: 9 }, (_, i) => `s${i}`);
    const some = fc.subarray(names, { maxLength: 2 });
    // Half of the sets have steps that go on together, the others none.
    const meanwhile = (isAsked: boolean) =>
      isAsked ? fc.option(fc.constantFrom(...names), { freq: 2 }) : fc.constant(null);
    const sets = fc
      .boolean()
      .chain((isAsked) => fc.array(fc.tuple(some, some, meanwhile(isAsked)), { minLength: 9, maxLength: 9 }));
    fc.assert(
      fc.property(sets, (asked) => {
        const own = procedure(
          "x",
          names.map((id, i) => step(id, { before: asked[i]![0], after: asked[i]![1], while: asked[i]![2] })),
        );
        const { steps, circle } = mergeProcedures([own], WHERE);
        if (steps) {
          expect(steps).toHaveLength(9);
          expect(keepsAll(steps)).toBe(true);
        } else
          circle!.forEach((one, i) => {
            const next = circle![(i + 1) % circle!.length]!;
            // What goes on together waits together: there the circle may run through a partner.
            if (asked.some(([, , partner]) => partner !== null)) return;
            expect(one.after.includes(next.id) || next.before.includes(one.id)).toBe(true);
          });
      }),
      { numRuns: 500 },
    );
  });
});

describe("the families that ship", () => {
  test("are nine, each with traps, parts and tools; each merges with what holds in general, up and down, in both rule sets", () => {
    expect(FAMILIES).toHaveLength(9);
    for (const family of FAMILIES) {
      expect(family.steps.length).toBeGreaterThanOrEqual(6);
      expect([family.id, family.steps.some(({ trap }) => trap !== "")]).toEqual([family.id, true]);
      expect([family.id, family.steps.some(({ part }) => part !== "")]).toEqual([family.id, true]);
      for (const ruleSetId of ["cfr47", "en"])
        for (const looks of ["up", "down"] as const) {
          const { steps, circle } = mergeProcedures([GENERAL, family], { ruleSetId, looks });
          expect([family.id, circle && circleWords(circle)]).toEqual([family.id, null]);
          expect(keepsAll(steps!)).toBe(true);
        }
    }
  });

  test("show the traps of their order: the tone before the cover, the film off before aiming and not before power, the restart after the probes", () => {
    const order = (id: string) => ids(mergeProcedures([GENERAL, FAMILIES.find((one) => one.id === id)!], WHERE).steps);
    const before = (list: string[], ...names: string[]) =>
      names.every((name, i) => i === 0 || list.indexOf(names[i - 1]!) < list.indexOf(name));
    expect(before(order("tubeDish"), "thread-cover", "cable", "power", "tone", "lock", "seal", "leave")).toBe(true);
    expect(
      before(order("gigabitSmall"), "polarization", "join", "power", "film", "coarse", "probes", "sweep", "lock"),
    ).toBe(true);
    expect(before(order("gigabitSmall"), "lock", "probes-out", "restart", "far-end", "leave")).toBe(true);
    expect(before(order("panelPair"), "bench", "addresses", "bracket", "floor", "channel", "leave")).toBe(true);
    expect(order("gigabitLarge")).toContain("turned");
    expect(ids(mergeProcedures([FAMILIES[1]!], { ruleSetId: "en", looks: "up" }).steps)).not.toContain("timing");
  });

  test("every radio of the library with every antenna of its band has a sheet, with its tools and torques", () => {
    const library = libraryFor("p");
    for (const radio of library)
      for (const antenna of library) {
        if (radio.kind !== "radio" || antenna.kind !== "antenna") continue;
        const end = { model: radio.body, antenna: antenna.body };
        expect(familiesOf(end).length).toBeGreaterThan(0);
        expect(procedureFor(end, WHERE).steps.length).toBeGreaterThan(GENERAL.steps.length - 1);
      }
    const { steps } = mergeProcedures([GENERAL, FAMILIES[0]!], WHERE);
    expect(toolsOf(steps!)).toEqual(
      expect.arrayContaining([
        { tool: "Torx T20", torquesNm: [1.2, 1.5, 2] },
        { tool: "spanner 13 mm", torquesNm: [8] },
      ]),
    );
    expect(minutesOf(steps!)).toBe(steps!.reduce((sum, { minutes }) => sum + minutes, 0));
  });
});

describe("own procedures", () => {
  const equipment = libraryFor("p");
  const model = equipment.flatMap((one) => (one.kind === "radio" && one.body.use === "sector" ? [one.body] : []))[0]!;
  const antenna = equipment.flatMap((one) =>
    one.kind === "antenna" && one.body.shape === "sector" ? [one.body] : [],
  )[0]!;
  const own = (forModels: string[], steps: object[]) =>
    procedureSchema.parse({ id: "own", name: "Ours", forModels, steps });

  test("are followed by the kit that they name, and by no other", () => {
    const ours = own([antenna.id], [step("paint", { before: ["bracket"] }), step("seal", { text: "Our own seal." })]);
    const { steps, procedures, leftOut } = procedureFor({ model, antenna }, WHERE, [ours]);
    expect(procedures.at(-1)).toBe("Ours");
    expect(ids(steps).indexOf("paint")).toBeLessThan(ids(steps).indexOf("bracket"));
    expect(steps.find(({ id }) => id === "seal")!.text).toBe("Our own seal.");
    expect(leftOut).toEqual([]);
    const other = procedureFor({ model, antenna }, WHERE, [own(["another"], [step("paint")])]);
    expect(ids(other.steps)).not.toContain("paint");
    const byBracket = { model, antenna, radio: { bracketId: "clamp" } };
    expect(ids(procedureFor(byBracket, WHERE, [own(["clamp"], [step("paint")])]).steps)).toContain("paint");
  });

  test("that contradict the others are left out with their circle, and the rest stands", () => {
    const wrong = own([model.id], [step("paint", { after: ["leave"], before: ["bench"] })]);
    const { steps, leftOut } = procedureFor({ model, antenna }, WHERE, [wrong]);
    expect(ids(steps)).not.toContain("paint");
    expect(leftOut).toEqual([{ name: "Ours", circle: expect.stringContaining("paint waits for") }]);
    expect(contradictionOf(wrong, "cfr47")).toContain("paint waits for");
    expect(contradictionOf(own([], [step("paint")]), "cfr47")).toBeNull();
  });
});

describe("drawings", () => {
  test("lie within their paper, say what they show, and come from the end's own figures", () => {
    for (const diagram of DIAGRAMS) {
      const { width, height, marks, says } = drawingOf(diagram, EXAMPLE_END);
      expect(says.length).toBeGreaterThan(20);
      for (const mark of marks)
        for (const [x, y] of mark.kind === "line"
          ? [mark.from, mark.to]
          : mark.kind === "path"
            ? mark.points
            : [mark.at]) {
          expect(x).toBeGreaterThanOrEqual(0);
          expect(x).toBeLessThanOrEqual(width);
          expect(y).toBeGreaterThanOrEqual(0);
          expect(y).toBeLessThanOrEqual(height);
        }
    }
    const bars = (polarization: string) =>
      drawingOf("polarization", { ...EXAMPLE_END, polarization }).marks.flatMap((mark) =>
        mark.kind === "line" && mark.weight > 2 ? [mark] : [],
      );
    const [upright] = bars("V");
    expect(upright!.from[0]).toBeCloseTo(upright!.to[0], 9);
    const [level] = bars("H");
    expect(level!.from[1]).toBeCloseTo(level!.to[1], 9);
    expect(bars("HV")).toHaveLength(2);
    const ports = drawingOf("ports", { ...EXAMPLE_END, chains: 4 }).marks.filter(({ kind }) => kind === "circle");
    expect(ports).toHaveLength(8);
    expect(drawingOf("scale", { ...EXAMPLE_END, tiltDownDeg: -3.5 }).says).toBe(
      "On the scale 3.5° up; the bracket reaches 15° up and 15° down.",
    );
  });
});
