import { LONGEST_NAME } from "#core/plan";
import { z } from "zod";

/** A form with a name in it. */
export const nameSchema = z.object({
  name: z
    .string("is missing")
    .trim()
    .min(1, "is missing")
    .max(LONGEST_NAME, `is longer than ${LONGEST_NAME} characters`),
});
