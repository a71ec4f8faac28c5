export type { Part } from "./taskGround";
export type { SiteChoice } from "./siteTasks";
export { cellsHearAskSchema, coverageAskSchema, viewAskSchema, type CoverageAsk, type ViewAsk } from "./asks";
export type { TaskAnswers, TaskAsk } from "./tasks";
export { askPool, poolThreads, Stopped, stopPool, type Answered, type TaskOptions } from "./pool";
export { askView, type ViewAnswers } from "./views";
