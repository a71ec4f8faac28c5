import type { z } from "zod";

type Issue = z.core.$ZodIssue;

const counted = (origin: string) => (origin === "string" ? " characters" : origin === "array" ? " entries" : "");

/** What is wrong with a value, as a person says it: "must be at most 90", "is not a number". */
export function plainIssue(issue: Issue): string {
  // A message that the schema has of its own says it best.
  if (!/^(Invalid|Too)\b/.test(issue.message)) return issue.message;
  switch (issue.code) {
    case "too_big":
      return `must be ${issue.inclusive === false ? "under" : "at most"} ${String(issue.maximum)}${counted(issue.origin)}`;
    case "too_small":
      return `must be ${issue.inclusive === false ? "over" : "at least"} ${String(issue.minimum)}${counted(issue.origin)}`;
    case "invalid_type":
      if (issue.message.endsWith("received undefined")) return "is missing";
      return issue.expected === "number" || issue.expected === "int" ? "is not a number" : `is no ${issue.expected}`;
    case "invalid_value":
      return `must be one of ${issue.values.map(String).join(", ")}`;
    default:
      return issue.message;
  }
}
