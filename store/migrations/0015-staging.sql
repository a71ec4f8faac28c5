-- Counts what changes beside the record, so that whoever looks again is told that nothing has.
CREATE SEQUENCE beside_changes;
-- What was noted of each radio on the bench. It is about the devices, not about the plan: undo does not undo a password.
CREATE TABLE staging (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  radio_id text NOT NULL,
  note jsonb NOT NULL,
  changed bigint NOT NULL DEFAULT nextval('beside_changes'),
  PRIMARY KEY (plan_id, radio_id)
);
-- Passwords of devices and keys of networks, sealed with a key that lies beside the database and goes into no backup.
CREATE TABLE secrets (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  ref text NOT NULL,
  sealed bytea NOT NULL,
  PRIMARY KEY (plan_id, ref)
);
