export { headingsFor, recommended, SCHOOL_WORDS, SCHOOLS, trySchools, type School, type SchoolTried } from "./schools";
