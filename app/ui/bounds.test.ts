import { expect, test } from "@jest/globals";
import { z } from "zod";
import { boundText } from "./bounds";

const said = (schema: z.ZodType, value: unknown, typed: string) =>
  boundText(schema.safeParse(value).error!.issues[0]!, typed);

test("a fault is said with what was typed and the bound that it broke", () => {
  const power = z.number().min(-40).max(40);
  expect(said(power, NaN, "many")).toBe('"many" is not a number');
  expect(said(power, NaN, " ")).toBe("is missing");
  expect(said(power, 99, "99")).toBe("99 is over 40");
  expect(said(power, -50, "-50")).toBe("-50 is under -40");
  expect(said(z.number().positive(), 0, "0")).toBe("0 is under or at 0");
  expect(said(z.string().min(1), "", "")).toBe("is missing");
  expect(said(z.array(z.number()).min(1), [], "")).toBe("is missing");
  expect(
    said(
      z.number().refine(() => false, "must be even"),
      3,
      "3",
    ),
  ).toBe("must be even");
});
