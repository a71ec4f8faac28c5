export { finished, type Steps } from "./finished";
