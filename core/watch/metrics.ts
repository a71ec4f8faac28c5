/** What a device, a link's end or a weather station can report. The order is that of everything that is kept: new ones go to the end. */
export const METRICS = [
  { key: "level0Dbm", name: "Level, first chain", unit: "dBm", step: 0.05, least: -140, most: 20 },
  { key: "level1Dbm", name: "Level, second chain", unit: "dBm", step: 0.05, least: -140, most: 20 },
  { key: "noiseDbm", name: "Noise", unit: "dBm", step: 0.05, least: -140, most: 20 },
  { key: "rateMbps", name: "Rate in the air", unit: "Mbit/s", step: 0.5, least: 0, most: 16_000 },
  { key: "throughputMbps", name: "Carried", unit: "Mbit/s", step: 0.5, least: 0, most: 16_000 },
  { key: "airtimePercent", name: "Airtime", unit: "%", step: 0.1, least: 0, most: 100 },
  { key: "uptimeMin", name: "Up since", unit: "min", step: 1, least: 0, most: 32_000 },
  { key: "temperatureC", name: "Temperature", unit: "°C", step: 0.1, least: -80, most: 150 },
  { key: "supplyV", name: "Supply", unit: "V", step: 0.01, least: 0, most: 320 },
  { key: "windMPerS", name: "Wind", unit: "m/s", step: 0.1, least: 0, most: 120 },
  { key: "rainMmPerH", name: "Rain", unit: "mm/h", step: 0.1, least: 0, most: 500 },
  { key: "seriesTold", name: "Series that told something", unit: "", step: 1, least: 0, most: 32_000 },
] as const;
export type Metric = (typeof METRICS)[number]["key"];

/** The place of each in a row of figures. */
export const AT = Object.fromEntries(METRICS.map(({ key }, at) => [key, at])) as Record<Metric, number>;
export const METRIC_COUNT = METRICS.length;

/** Series are named after whom they tell about: a link's end as that end hears it, a radio as a device, or the weather. */
export const endSeries = (linkId: string, side: "a" | "b") => `${linkId}/${side}`;
export const radioSeries = (radioId: string) => `radio/${radioId}`;
export const WEATHER_SERIES = "weather";

/** What a series that devices may tell of is about; null where its name says nothing. */
export function seriesParts(seriesId: string): { kind: "links" | "radios"; id: string } | { kind: "weather" } | null {
  if (seriesId === WEATHER_SERIES) return { kind: "weather" };
  if (seriesId.startsWith("radio/")) return { kind: "radios", id: seriesId.slice("radio/".length) };
  return /\/[ab]$/.test(seriesId) ? { kind: "links", id: seriesId.slice(0, -2) } : null;
}
/** How many series of the plan told anything: where none did, nobody was asked, and silence says nothing of a link. */
export const PLAN_SERIES = "plan";
