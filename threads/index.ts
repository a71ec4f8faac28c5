export { threadClient, ThreadEnded, type ThreadClient, type UseOptions } from "./client";
export { exposeTasks } from "./expose";
export { entryOf, goBehindServing, limitsOf, SOURCES, startProcess, useBuiltThreads, type ThreadName } from "./start";
