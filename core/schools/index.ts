export { headingsFor, recommended, SCHOOL_WORDS, trySchool, trySchools, type SchoolTried } from "./schools";
export { monthEurOf, stagesOf, stageWords } from "./stages";
