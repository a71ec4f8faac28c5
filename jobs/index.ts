export {
  archivePath,
  archivePlan,
  dropOldArchives,
  NO_PLAN,
  startArchive,
  startTakingArchive,
  takeArchive,
} from "./archive";
export { jobOf, startJob, stopJob, type JobTools, type JobView } from "./registry";
export { importTerrain, type TerrainImport } from "./terrain";
export { dropOldUploads, dropUpload, receiveUpload, UPLOAD_LIMIT_BYTES, uploadPath } from "./uploads";
export { askScanner, startScanner } from "./scanner";
export { searchResult, startSearch } from "./search";
export { askView, stopViews, warmViews, type ViewAnswers, type ViewAsk } from "./views";
