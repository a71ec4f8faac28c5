export { alarmVisit, leadWords } from "./alarmJob";
export { alarmsOf, type LinkAlarm } from "./alarms";
export {
  addSample,
  DAY_MS,
  emptyBuckets,
  emptyFineDay,
  FINE_A_DAY,
  FINE_MINUTES,
  HOUR_MS,
  packBuckets,
  packFineDay,
  rollUp,
  unpackBuckets,
  unpackFineDay,
  type Buckets,
  type FineDay,
} from "./buckets";
export { CAUSES, rankCauses, type CauseKind, type RankedCause } from "./causes";
export { departures, type CusumBounds, type Departure } from "./cusum";
export { linkDays, skyDays, SIDES, type EndDay, type LinkDay, type Side } from "./days";
export { featuresOf, type Features } from "./features";
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
export {
  AHEAD_MS,
  counterDelta,
  LATE_MS,
  pushedSampleSchema,
  receive,
  type PushedSample,
  type Received,
  type Sample,
} from "./sample";
export {
  NO_WATCH,
  plannedFaultSchema,
  WATCH_SOURCES,
  watchSettingsSchema,
  type PlannedFault,
  type WatchSettings,
} from "./settings";
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
  NO_SNMP,
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
export { pathResidualDb, SIGNAL_KINDS, signalsOf, type Signal, type SignalKind } from "./signals";
export {
  GOOD_SHARE,
  hourState,
  monthName,
  WATCH_STATES,
  watchSummary,
  type HourState,
  type LinkMonth,
  type LinkWatch,
  type WatchState,
} from "./summary";
export type { Delivered, HourSeries, WatchedLink } from "./watched";
export { availabilityOf, type Availability } from "./availability";
export { monthsShown } from "./monthsShown";
export { SEASONS, seasonsOf, type LinkSeason, type Season } from "./seasons";
export { otherSeasonOf, type OtherSeason } from "./otherSeason";
