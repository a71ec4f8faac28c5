import type { RadioModel } from "#core/radio";

/** What lies in a radio's box as lines that a person writes: "1 × its injector; injector; en, own". */
export const boxText = (box: RadioModel["box"]): string =>
  box
    .map(({ count, what, kind, ruleSetIds }) =>
      [`${count} × ${what}`, kind ?? "", ruleSetIds.join(", ")].join("; ").replace(/[; ]+$/, ""),
    )
    .join("\n");

/** The same read back; a line without a count is one piece. What is out of bounds is left for the schema to tell. */
export const boxOf = (text: string): unknown[] =>
  text
    .split("\n")
    .filter((line) => line.trim() !== "")
    .map((line) => {
      const [first = "", kind = "", rules = ""] = line.split(";").map((part) => part.trim());
      const counted = /^(\d+)\s*[×x*]\s*(.*)$/.exec(first);
      return {
        what: counted ? counted[2] : first,
        count: counted ? Number(counted[1]) : 1,
        kind: kind === "" ? null : kind,
        ruleSetIds: rules
          .split(",")
          .map((one) => one.trim())
          .filter(Boolean),
      };
    });
