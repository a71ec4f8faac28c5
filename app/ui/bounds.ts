import type { z } from "zod";

/** What is wrong with a typed value, said with the value and its bound. */
export function boundText(issue: z.core.$ZodIssue, typed: string): string {
  const value = typed.trim();
  switch (issue.code) {
    case "invalid_type":
      return value === "" ? "is missing" : `"${value}" is not a number`;
    case "too_big":
      return `${value || "nothing"} is over ${issue.inclusive === false ? "or at " : ""}${issue.maximum}`;
    case "too_small":
      return value === ""
        ? "is missing"
        : `${value} is under ${issue.inclusive === false ? "or at " : ""}${issue.minimum}`;
    default:
      return issue.message;
  }
}
