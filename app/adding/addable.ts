/** What can be put on a plan by hand. */
export const ADDABLE = [
  { kind: "site", word: "site" },
  { kind: "subscriber", word: "customer" },
  { kind: "sector", word: "sector" },
  { kind: "bridge", word: "bridge" },
] as const;
export type Addable = (typeof ADDABLE)[number]["kind"];
