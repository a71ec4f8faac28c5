export { archivePath, archivePlan, dropOldArchives, takeArchive } from "./archive";
export { hasQueue } from "./queue";
export { searchResult, searchTitle, type SearchOrder } from "./search";
export type { TerrainImport } from "./terrain";
export { NO_PLAN, type JobTools } from "./tools";
export { dropOldUploads, dropUpload, receiveUpload, UPLOAD_LIMIT_BYTES, uploadPath } from "./uploads";
export { askCoverage } from "./coverage";
export { askView, type ViewAnswers, type ViewAsk } from "./views";
export { jobOf, pauseWork, startWork, stopJob, submit, type JobView } from "./work";
