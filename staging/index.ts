export type { DeviceAdapter } from "./adapter";
export { practiceBench } from "./practice";
export { stageGroup, type StagingTools } from "./stage";
export { stagingTasks, type StagingTask } from "./task";
