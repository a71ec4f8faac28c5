import { monthOfDay } from "#core/watch";
import type { Queries } from "../db";
import { dropLook } from "./looks";

/** Five-minute slots are kept for so many days, hours and days for so many months. Samples come no later than the former allows. */
const KEPT_DAYS = 14;
const KEPT_MONTHS = 60;

/** A day of a series in five-minute slots, packed. */
export interface PackedDay {
  seriesId: string;
  day: number;
  packed: Uint8Array;
}
/** A month of a series, packed. */
export interface PackedMonth {
  seriesId: string;
  month: number;
  hours: Uint8Array;
  days: Uint8Array;
}

/** Days of one partition of five-minute slots, and months of one of hours. */
const DAYS_A_PART = 7;
const MONTHS_A_PART = 12;

async function makeParts(db: Queries, table: "watch_days" | "watch_months", keys: Iterable<number>, size: number) {
  for (const part of new Set([...keys].map((key) => Math.floor(key / size))))
    await db.exec(
      `CREATE TABLE IF NOT EXISTS ${table}_${part} PARTITION OF ${table} FOR VALUES FROM (${part * size}) TO (${(part + 1) * size})`,
    );
}

export async function readDays(
  db: Queries,
  planId: string,
  seriesIds: readonly string[],
  fromDay: number,
  toDay: number,
): Promise<PackedDay[]> {
  const { rows } = await db.query<PackedDay>(
    `SELECT series_id AS "seriesId", day, packed FROM watch_days WHERE plan_id = $1 AND series_id = ANY($2) AND day BETWEEN $3 AND $4`,
    [planId, seriesIds, fromDay, toDay],
  );
  return rows;
}

/** Series and days that no month has yet, of days before one. */
export async function unrolledDays(
  db: Queries,
  planId: string,
  beforeDay: number,
  most: number,
): Promise<{ seriesId: string; day: number }[]> {
  const { rows } = await db.query<{ seriesId: string; day: number }>(
    `SELECT series_id AS "seriesId", day FROM watch_days WHERE plan_id = $1 AND day < $2 AND NOT is_rolled ORDER BY day, series_id LIMIT $3`,
    [planId, beforeDay, most],
  );
  return rows;
}

/** Writes days; what their months have of them is no longer all. */
export async function writeDays(db: Queries, planId: string, days: readonly PackedDay[]): Promise<void> {
  if (days.length === 0) return;
  await makeParts(
    db,
    "watch_days",
    days.map(({ day }) => day),
    DAYS_A_PART,
  );
  await db.query(
    `INSERT INTO watch_days (plan_id, series_id, day, packed) SELECT $1, * FROM unnest($2::text[], $3::int[], $4::bytea[])
     ON CONFLICT (plan_id, series_id, day) DO UPDATE SET packed = EXCLUDED.packed, is_rolled = false`,
    [
      planId,
      days.map(({ seriesId }) => seriesId),
      days.map(({ day }) => day),
      days.map(({ packed }) => Buffer.from(packed)),
    ],
  );
}

export async function readMonths(
  db: Queries,
  planId: string,
  seriesIds: readonly string[],
  fromMonth: number,
  toMonth: number,
): Promise<PackedMonth[]> {
  const { rows } = await db.query<PackedMonth>(
    `SELECT series_id AS "seriesId", month, hours, days FROM watch_months WHERE plan_id = $1 AND series_id = ANY($2) AND month BETWEEN $3 AND $4 ORDER BY month`,
    [planId, seriesIds, fromMonth, toMonth],
  );
  return rows;
}

/** Writes months, and says of the days that went into them that they are there. */
export async function writeMonths(
  db: Queries,
  planId: string,
  months: readonly PackedMonth[],
  rolled: readonly { seriesId: string; day: number }[] = [],
): Promise<void> {
  if (months.length === 0) return;
  await makeParts(
    db,
    "watch_months",
    months.map(({ month }) => month),
    MONTHS_A_PART,
  );
  await db.query(
    `INSERT INTO watch_months (plan_id, series_id, month, hours, days)
     SELECT $1, * FROM unnest($2::text[], $3::int[], $4::bytea[], $5::bytea[])
     ON CONFLICT (plan_id, series_id, month) DO UPDATE SET hours = EXCLUDED.hours, days = EXCLUDED.days`,
    [
      planId,
      months.map(({ seriesId }) => seriesId),
      months.map(({ month }) => month),
      months.map(({ hours }) => Buffer.from(hours)),
      months.map(({ days }) => Buffer.from(days)),
    ],
  );
  if (rolled.length > 0)
    await db.query(
      `UPDATE watch_days SET is_rolled = true FROM unnest($2::text[], $3::int[]) AS done (series_id, day)
       WHERE watch_days.plan_id = $1 AND watch_days.series_id = done.series_id AND watch_days.day = done.day`,
      [planId, rolled.map(({ seriesId }) => seriesId), rolled.map(({ day }) => day)],
    );
}

/** Forgets all series of a plan, and what the last look made of them. */
export async function dropSeries(db: Queries, planId: string): Promise<void> {
  for (const table of ["watch_batches", "watch_days", "watch_months"])
    await db.query(`DELETE FROM ${table} WHERE plan_id = $1`, [planId]);
  await dropLook(db, planId);
  await db.query("UPDATE watch_plans SET received = '{}', changed = nextval('beside_changes') WHERE plan_id = $1", [
    planId,
  ]);
}

/** Drops whole partitions that are older than what is kept. */
export async function dropOldSeries(db: Queries, today: number): Promise<void> {
  const { rows } = await db.query<{ name: string }>(
    `SELECT child.relname AS name FROM pg_inherits JOIN pg_class child ON child.oid = inhrelid JOIN pg_class parent ON parent.oid = inhparent
     WHERE parent.relname IN ('watch_days', 'watch_months')`,
  );
  for (const { name } of rows) {
    const part = Number(name.slice(name.lastIndexOf("_") + 1));
    const isDays = name.startsWith("watch_days");
    const isOld = isDays
      ? (part + 1) * DAYS_A_PART <= today - KEPT_DAYS
      : (part + 1) * MONTHS_A_PART <= monthOfDay(today) - KEPT_MONTHS;
    if (isOld) await db.exec(`DROP TABLE ${name}`);
  }
}
