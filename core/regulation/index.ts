export { eirpLimit, ruleSchema, ruleSetSchema, type EirpLimit, type Rule, type RuleSet } from "./rules";
export { ruleSetById, RULE_SETS } from "./ruleSets";
