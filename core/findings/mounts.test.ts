import { expect, test } from "@jest/globals";
import { reviewPlan } from "#core/evaluate";
import { CHECKS, checkOf, linksOf } from "#core/findings";
import { radioIn, valley } from "#core/testing";

test("a site with more radios than mounts is a finding about the site, for whom it serves", () => {
  const made = valley(0, (rows) => void (rows.sites[0]!.freeMounts = 1));
  const short = reviewPlan(made.world, made.between, 0).findings.find(({ check }) => check === "mounts")!;
  expect(short).toMatchObject({
    about: [{ kind: "sites", id: "west" }],
    what: "2 radios for 1 mount: 1 short",
    figure: { value: 1, unit: "mounts" },
    stage: "install",
    people: 3,
    linkId: "bridge",
  });
  expect(linksOf(short)).toEqual([]);
  const enough = valley(0, (rows) => void (rows.sites[0]!.freeMounts = 2));
  expect(reviewPlan(enough.world, enough.between, 0).findings).toEqual([]);
});

test("every check has an id of its own, and one that is not there is a broken contract", () => {
  expect(new Set(CHECKS.map(({ id }) => id)).size).toBe(CHECKS.length);
  expect(checkOf("blocked").title).toBe("Blocked");
  expect(() => checkOf("nothing")).toThrow('there is no check "nothing"');
  const made = valley(0, (rows) => void (radioIn(rows, "sector").txPowerDbm = 27));
  for (const { check, title, stage } of reviewPlan(made.world, made.between, 0).findings)
    expect(checkOf(check)).toMatchObject({ title, stage });
});
