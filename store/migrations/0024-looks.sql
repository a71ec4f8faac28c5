-- What the last look over a plan's watch came to, packed and in parts, so that nobody waits while all of it is written or read. Looks of
-- before are forgotten: the next one, which comes within a minute of a start, makes its own of the same series.
ALTER TABLE watch_plans DROP COLUMN look;
CREATE TABLE watch_looks (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  part int NOT NULL,
  packed bytea NOT NULL,
  PRIMARY KEY (plan_id, part)
);
