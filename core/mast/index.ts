export { mastIsolationDb } from "./isolation";
