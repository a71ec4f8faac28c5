import type { RadioModel } from "./model";

/** Whether a radio's box holds a kind of part where some rules are in force: what lies in it may differ by region. */
export const boxHolds = ({ box }: Pick<RadioModel, "box">, kind: string, ruleSetId: string): boolean =>
  box.some((one) => one.kind === kind && (one.ruleSetIds.length === 0 || one.ruleSetIds.includes(ruleSetId)));
