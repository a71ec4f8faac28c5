-- What the watch found, and what it found it in. Alarms are rows of the plan; series lie beside it and have no history.
CREATE TABLE alarms (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  id text NOT NULL,
  link_id text NOT NULL,
  link_ids jsonb NOT NULL,
  radio_id text,
  kind text NOT NULL,
  since_day text NOT NULL,
  raised_day text NOT NULL,
  ended_day text NOT NULL,
  what text NOT NULL,
  value double precision NOT NULL,
  unit text NOT NULL,
  causes jsonb NOT NULL,
  state text NOT NULL,
  seen_by text NOT NULL,
  closed_why text NOT NULL,
  visit_id text,
  PRIMARY KEY (plan_id, id)
);
-- What arrived and is not laid into the series yet: one row for each batch, written before it is acknowledged.
CREATE TABLE watch_batches (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  received_at timestamptz NOT NULL DEFAULT now(),
  samples int NOT NULL,
  packed bytea NOT NULL
);
CREATE INDEX watch_batches_by_plan ON watch_batches (plan_id, id);
-- A day of one series in five-minute slots. Partitions are made and dropped by store/watch: a day counts from 1970.
CREATE TABLE watch_days (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  series_id text NOT NULL,
  day int NOT NULL,
  packed bytea NOT NULL,
  is_rolled boolean NOT NULL DEFAULT false,
  PRIMARY KEY (plan_id, series_id, day)
) PARTITION BY RANGE (day);
-- A month of one series by hours and by days; a month counts from 1970 too.
CREATE TABLE watch_months (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  series_id text NOT NULL,
  month int NOT NULL,
  hours bytea NOT NULL,
  days bytea NOT NULL,
  PRIMARY KEY (plan_id, series_id, month)
) PARTITION BY RANGE (month);
-- Where a plan's figures come from, how they are told on, and what the last look came to.
CREATE TABLE watch_plans (
  plan_id text PRIMARY KEY REFERENCES plans(id) ON DELETE CASCADE,
  settings jsonb NOT NULL,
  token_hash text,
  look jsonb,
  received jsonb NOT NULL DEFAULT '{}',
  changed bigint NOT NULL DEFAULT nextval('beside_changes')
);
