export { BenchError, type Bench, type DeviceStatus } from "./adapter";
export { practiceBench } from "./practice";
export { stageGroup, type StagingTask, type StagingTools } from "./stage";
