export { threadClient, ThreadEnded } from "./client";
export { exposeTasks } from "./expose";
export { entryOf, goBehindServing, limitsOf, startProcess, useBuiltThreads } from "./start";
