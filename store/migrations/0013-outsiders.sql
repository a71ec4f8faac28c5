-- Transmitters of others whose place is known: where they stand and look, what they radiate, and how much of the time.
CREATE TABLE outsiders (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  name text NOT NULL,
  lat_deg float8 NOT NULL,
  lon_deg float8 NOT NULL,
  height_m float8 NOT NULL,
  azimuth_deg float8,
  antenna_model_id text,
  frequency_m_hz float8 NOT NULL,
  width_m_hz float8 NOT NULL,
  eirp_dbm float8 NOT NULL,
  time_share float8 NOT NULL,
  notes text NOT NULL,
  PRIMARY KEY (plan_id, id)
);
