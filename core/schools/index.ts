export {
  headingsFor,
  recommended,
  SCHOOL_WORDS,
  SCHOOLS,
  trySchool,
  trySchools,
  type School,
  type SchoolTried,
} from "./schools";
export { monthEurOf, stagesOf, stageWords, type Stage } from "./stages";
