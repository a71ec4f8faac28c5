export { benchLevel, levelProblem, type BenchLevel } from "./expect";
export { laptopAddress, stagingGroups, stagingProblems } from "./order";
export {
  configSheet,
  leaders,
  networkName,
  SETTING_WORDS,
  settingText,
  settingWord,
  sheetContext,
  sheetDifferences,
  type ConfigSheet,
  type DeviceSettings,
  type SheetContext,
} from "./sheet";
export { BY_HAND, progressOf, STAGING_STEPS, type StagingNote, type StagingStep } from "./steps";
export { stagingTexts } from "./texts";
