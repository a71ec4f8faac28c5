export { alarmVisit, leadWords } from "./alarmJob";
export { alarmsOf, type LinkAlarm } from "./alarms";
export {
  addSample,
  DAY_MS,
  emptyBuckets,
  emptyFineDay,
  HOUR_MS,
  packBuckets,
  packFineDay,
  rollUp,
  unpackBuckets,
  unpackFineDay,
  type Buckets,
  type FineDay,
} from "./buckets";
export { CAUSES, rankCauses, type CauseKind } from "./causes";
export { departures } from "./cusum";
export { linkDays, skyDays, type LinkDay, type Side } from "./days";
export {
  AT,
  endSeries,
  METRIC_COUNT,
  METRICS,
  PLAN_SERIES,
  radioSeries,
  seriesParts,
  WEATHER_SERIES,
  type Metric,
} from "./metrics";
export { counterDelta, pushedSampleSchema, receive, type PushedSample, type Received, type Sample } from "./sample";
export { NO_WATCH, plannedFaultSchema, watchSettingsSchema, type PlannedFault, type WatchSettings } from "./settings";
export { dayOfYear, leafShare, promisedOnDbm } from "./season";
export {
  daysIn,
  emptyMonth,
  firstDayOf,
  hoursOfDay,
  joinedHours,
  toldSpan,
  layDay,
  monthOfDay,
  monthOfHours,
  type MonthOfSeries,
} from "./months";
export { monthReport, type MonthReport } from "./monthReport";
export {
  inOctetsOid,
  outOctetsOid,
  clientSamples,
  carriedOn,
  SNMP_AUTHS,
  SNMP_PRIVACIES,
  SNMP_PROTOCOL_WORDS,
  WEAK_SNMP,
  snmpFigures,
  snmpSettingsSchema,
  UPTIME_OID,
  type SnmpClient,
  type SnmpModel,
  type SnmpReading,
  type SnmpSettings,
} from "./snmp";
export { watchedOf } from "./promise";
export { rootAlarms, type RootAlarm } from "./roots";
export { hourState, monthName, watchSummary, type LinkMonth, type LinkWatch, type WatchState } from "./summary";
export type { Delivered, HourSeries, WatchedLink } from "./watched";
export { availabilityOf, type Availability } from "./availability";
export { monthsShown } from "./monthsShown";
export { SEASONS, seasonsOf, type LinkSeason, type Season } from "./seasons";
export { otherSeasonOf, type OtherSeason } from "./otherSeason";
