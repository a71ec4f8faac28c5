-- Who works, and what is to be done on both ends of a link; and what crews write down there.
CREATE TABLE crews (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  id text NOT NULL,
  name text NOT NULL,
  people text NOT NULL,
  radio_channel text NOT NULL,
  phone text NOT NULL,
  logins jsonb NOT NULL,
  PRIMARY KEY (plan_id, id)
);
CREATE TABLE visits (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  id text NOT NULL,
  link_id text NOT NULL,
  work text NOT NULL,
  day text NOT NULL,
  start_minute int NOT NULL,
  minutes int NOT NULL,
  crew_a_id text,
  crew_b_id text,
  after_ids jsonb NOT NULL,
  weather text NOT NULL,
  power_off text NOT NULL,
  climb text NOT NULL,
  neighbours_told boolean NOT NULL,
  packed boolean NOT NULL,
  state text NOT NULL,
  stopped text NOT NULL,
  notes text NOT NULL,
  PRIMARY KEY (plan_id, id)
);
-- A crew's notes only grow, and each has an id of its own: sent twice, it is kept once.
CREATE TABLE field_notes (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  id text NOT NULL,
  visit_id text NOT NULL,
  note jsonb NOT NULL,
  changed bigint NOT NULL DEFAULT nextval('beside_changes'),
  PRIMARY KEY (plan_id, id)
);
CREATE INDEX field_notes_by_visit ON field_notes (plan_id, visit_id);
