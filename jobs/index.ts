export { archivePath, archivePlan, dropOldArchives, takeArchive } from "./archive";
export { hasQueue } from "./queue";
export { channelsTitle, type ChannelsOrder } from "./channels";
export { optimizeTitle, type OptimizeOrder, type OptimizeResult } from "./optimize";
export { searchResult, searchTitle, type SearchOrder } from "./search";
export { sitesTitle, type SitesAsk, type SitesOfStyle, type SitesOrder, type SitesResult } from "./sites";
export { stagingTitle } from "./staging";
export type { TerrainImport } from "./terrain";
export { NO_PLAN, type JobTools } from "./tools";
export { dropOldUploads, dropUpload, noRoomFor, receiveUpload, UPLOAD_LIMIT_BYTES, uploadPath } from "./uploads";
export { askCoverage } from "./coverage";
export { jobOf, jobUnderWay, pauseWork, startWork, stopJob, submit, type JobView } from "./work";
export {
  dayText,
  channelRunTitle,
  linkChanges,
  closeAlarms,
  watchClockMs,
  watchTitle,
  lastLook,
  type Look,
  type RunResult,
  type WatchOrder,
} from "./watch";
export { searchAskSchema } from "./searchAsk";
