ALTER TABLE sites
  ADD COLUMN feed_mbps float8 NOT NULL DEFAULT 0,
  ADD COLUMN access text NOT NULL DEFAULT '',
  ADD COLUMN terms text NOT NULL DEFAULT '',
  ADD COLUMN hazards text NOT NULL DEFAULT '';
ALTER TABLE subscribers
  ADD COLUMN status text NOT NULL DEFAULT 'asked',
  ADD COLUMN demand_up_mbps float8 NOT NULL DEFAULT 0,
  ADD COLUMN tier text NOT NULL DEFAULT '';

-- A plan's terrain is any number of rasters. Taking one out leaves its tiles, so that undo can put it back.
CREATE TABLE layers (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  name text NOT NULL,
  kind text NOT NULL,
  west_deg float8 NOT NULL,
  north_deg float8 NOT NULL,
  cell_lon_deg float8 NOT NULL,
  cell_lat_deg float8 NOT NULL,
  columns int NOT NULL,
  rows int NOT NULL,
  hole_count bigint NOT NULL,
  added_at text NOT NULL,
  PRIMARY KEY (plan_id, id)
);
CREATE TABLE layer_tiles (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  layer_id text NOT NULL,
  tile_index int NOT NULL,
  data bytea NOT NULL,
  PRIMARY KEY (plan_id, layer_id, tile_index)
);
INSERT INTO layers
  SELECT plan_id, version, name, 'bare', west_deg, north_deg, cell_lon_deg, cell_lat_deg, columns, rows, 0, to_char(now() AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"')
  FROM terrains;
INSERT INTO layer_tiles SELECT t.plan_id, r.version, t.tile_index, t.data FROM terrain_tiles t JOIN terrains r USING (plan_id);
DROP TABLE terrain_tiles;
DROP TABLE terrains;

CREATE TABLE areas (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  name text NOT NULL,
  kind text NOT NULL,
  height_m float8 NOT NULL,
  density float8 NOT NULL,
  rings jsonb NOT NULL,
  PRIMARY KEY (plan_id, id)
);
CREATE TABLE overlays (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  name text NOT NULL,
  geojson text NOT NULL,
  shown boolean NOT NULL,
  PRIMARY KEY (plan_id, id)
);
CREATE TABLE scans (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  site_id text NOT NULL,
  heading_deg float8 NOT NULL,
  beamwidth_deg float8 NOT NULL,
  gain_dbi float8 NOT NULL,
  polarization text NOT NULL,
  scanned_at text NOT NULL,
  source text NOT NULL,
  bin_k_hz float8 NOT NULL,
  frequencies_m_hz jsonb NOT NULL,
  levels_dbm jsonb NOT NULL,
  PRIMARY KEY (plan_id, id),
  FOREIGN KEY (plan_id, site_id) REFERENCES sites DEFERRABLE INITIALLY DEFERRED
);
CREATE TABLE photos (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  owner_kind text NOT NULL,
  owner_id text NOT NULL,
  name text NOT NULL,
  caption text NOT NULL,
  taken_at text,
  lat_deg float8,
  lon_deg float8,
  width_px int NOT NULL,
  height_px int NOT NULL,
  PRIMARY KEY (plan_id, id)
);
CREATE TABLE photo_bytes (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  photo_id text NOT NULL,
  data bytea NOT NULL,
  PRIMARY KEY (plan_id, photo_id)
);

-- A plan as it stood at a moment that somebody gave a name.
CREATE TABLE versions (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  name text NOT NULL,
  who text NOT NULL,
  at timestamptz NOT NULL DEFAULT now(),
  history_id bigint NOT NULL,
  rows jsonb NOT NULL,
  PRIMARY KEY (plan_id, id)
);
