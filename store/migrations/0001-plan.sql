-- One plan and its things. Ids are text made by the app; every row of a plan goes with it.
CREATE TABLE plans (
  id text PRIMARY KEY,
  name text NOT NULL,
  rule_set_id text NOT NULL,
  k_factor float8 NOT NULL,
  rain_rate001_mm_per_h float8 NOT NULL,
  availability_percent float8 NOT NULL,
  margin_target_db float8 NOT NULL,
  rain_margin_db float8 NOT NULL,
  proof_floor_dbm float8 NOT NULL,
  proof_deviation_db float8 NOT NULL,
  is_demo boolean NOT NULL,
  created_at text NOT NULL
);

CREATE TABLE sites (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  name text NOT NULL,
  lat_deg float8 NOT NULL,
  lon_deg float8 NOT NULL,
  structure_kind text NOT NULL,
  structure_height_m float8 NOT NULL,
  pole_diameter_mm float8 NOT NULL,
  power text NOT NULL,
  free_mounts int NOT NULL,
  is_feed boolean NOT NULL,
  notes text NOT NULL,
  PRIMARY KEY (plan_id, id)
);

CREATE TABLE subscribers (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  name text NOT NULL,
  lat_deg float8 NOT NULL,
  lon_deg float8 NOT NULL,
  mount text NOT NULL,
  antenna_height_m float8 NOT NULL,
  max_height_m float8 NOT NULL,
  demand_mbps float8 NOT NULL,
  people int NOT NULL,
  behind text NOT NULL,
  notes text NOT NULL,
  PRIMARY KEY (plan_id, id)
);

CREATE TABLE equipment (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  kind text NOT NULL,
  body jsonb NOT NULL,
  PRIMARY KEY (plan_id, id)
);

-- References inside a plan are checked when the change is complete, so its edits may come in any order.
CREATE TABLE radios (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  site_id text,
  subscriber_id text,
  name text NOT NULL,
  role text NOT NULL,
  radio_model_id text NOT NULL,
  antenna_model_id text NOT NULL,
  height_m float8 NOT NULL,
  azimuth_deg float8,
  tilt_down_deg float8,
  bracket_turned boolean NOT NULL,
  polarization text NOT NULL,
  frequency_m_hz float8 NOT NULL,
  width_m_hz float8 NOT NULL,
  tx_power_dbm float8 NOT NULL,
  cable_loss_db float8 NOT NULL,
  interference_db float8 NOT NULL,
  ethernet_m float8 NOT NULL,
  injector text NOT NULL,
  address text NOT NULL,
  PRIMARY KEY (plan_id, id),
  CHECK ((site_id IS NULL) <> (subscriber_id IS NULL)),
  FOREIGN KEY (plan_id, site_id) REFERENCES sites DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (plan_id, subscriber_id) REFERENCES subscribers DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (plan_id, radio_model_id) REFERENCES equipment DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (plan_id, antenna_model_id) REFERENCES equipment DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE links (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  kind text NOT NULL,
  a_radio_id text NOT NULL,
  b_radio_id text NOT NULL,
  state text NOT NULL,
  foliage_depth_m float8 NOT NULL,
  PRIMARY KEY (plan_id, id),
  FOREIGN KEY (plan_id, a_radio_id) REFERENCES radios DEFERRABLE INITIALLY DEFERRED,
  FOREIGN KEY (plan_id, b_radio_id) REFERENCES radios DEFERRABLE INITIALLY DEFERRED
);

CREATE TABLE measurements (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  link_id text NOT NULL,
  measured_at text NOT NULL,
  measured_by text NOT NULL,
  level_a0_dbm float8 NOT NULL,
  level_a1_dbm float8,
  level_b0_dbm float8 NOT NULL,
  level_b1_dbm float8,
  noise_a_dbm float8,
  noise_b_dbm float8,
  down_mbps float8,
  up_mbps float8,
  expected_a_dbm float8 NOT NULL,
  expected_b_dbm float8 NOT NULL,
  notes text NOT NULL,
  PRIMARY KEY (plan_id, id),
  FOREIGN KEY (plan_id, link_id) REFERENCES links DEFERRABLE INITIALLY DEFERRED
);

-- The logbook: every change, whole, with what it replaced. It is only ever added to.
CREATE TABLE history (
  id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  at timestamptz NOT NULL DEFAULT now(),
  who text NOT NULL,
  what text NOT NULL,
  reason text NOT NULL,
  -- 'change', or 'undo' / 'redo' of the entry named in of_id
  kind text NOT NULL,
  of_id bigint REFERENCES history,
  -- [{kind, id, before, after}] in the order in which they were applied
  edits jsonb NOT NULL
);
CREATE INDEX history_of_plan ON history (plan_id, id);

-- Where undo and redo stand: changes up to here are in force; those after it can be redone until a new change comes.
CREATE TABLE history_stack (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  position int NOT NULL,
  history_id bigint NOT NULL REFERENCES history,
  undone boolean NOT NULL,
  PRIMARY KEY (plan_id, position)
);
