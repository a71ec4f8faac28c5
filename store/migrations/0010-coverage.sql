-- Path losses of a coverage, part by part, under the hash of all that they follow from: what changed is not found and worked out anew.
CREATE TABLE coverage_losses (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  key text NOT NULL,
  data bytea NOT NULL,
  used_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (plan_id, key)
);
CREATE INDEX coverage_losses_by_use ON coverage_losses (plan_id, used_at);
