export type { Part } from "./taskGround";
export type { SiteChoice } from "./siteTasks";
export type { CoverageAsk, TaskAnswers, TaskAsk } from "./tasks";
export { askPool, poolThreads, Stopped, stopPool, type Answered, type TaskOptions } from "./pool";
export { askView, type ViewAnswers, type ViewAsk } from "./views";
