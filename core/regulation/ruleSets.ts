import { z } from "zod";
import { ruleSetSchema, type Rule, type RuleSet } from "./rules";
import ruleSets from "./ruleSets.json" with { type: "json" };

/** The rule sets that ship with Tejado, as data: what each says, its source and when it was noted. */
export const RULE_SETS: readonly RuleSet[] = z.array(ruleSetSchema).parse(ruleSets);

/** Under this id a plan goes by rules of its own. */
export const OWN_RULES = "own";
/** Every rule set that a plan can name. */
const RULE_SET_IDS: readonly string[] = [...RULE_SETS.map((set) => set.id), OWN_RULES];

/** A shipped rule set by id; refuses an unknown one. */
export function ruleSetById(id: string): RuleSet {
  const found = RULE_SETS.find((set) => set.id === id);
  if (!found) throw new RangeError(`rule set is ${id}; it must be one of ${RULE_SET_IDS.join(", ")}`);
  return found;
}

/** The rule set that a plan goes by: a shipped one, or its own. */
export function ruleSetOf({ ruleSetId, ownRules }: { ruleSetId: string; ownRules: readonly Rule[] }): RuleSet {
  if (ruleSetId !== OWN_RULES) return ruleSetById(ruleSetId);
  return {
    id: OWN_RULES,
    name: "Own rules",
    noted: "written by this plan's users; check with your regulator",
    rules: ownRules,
  };
}
