export { threadClient, ThreadEnded } from "./client";
export { exposeTasks } from "./expose";
export { entryOf, goBehindServing, limitsOf, SOURCES, startProcess, useBuiltThreads, type ThreadName } from "./start";
