export { capsFor, isLicensed, overCap, ruleUse, type CappedEnd, type Caps, type RuleUse } from "./capsFor";
export {
  capWords,
  eirpLimit,
  limitReason,
  eirpWords,
  FLAG_WORDS,
  LICENCE_WORDS,
  LICENCES,
  RULE_FLAGS,
  ruleSchema,
  type EirpLimit,
  type Rule,
  type RuleFlag,
  type RuleSet,
} from "./rules";
export { OWN_RULES, ruleSetById, ruleSetOf, RULE_SETS } from "./ruleSets";
