-- Rasters lie in tiles of 128 × 128 cells, deflated, so that no parameter grows past some 60 KB.
CREATE TABLE terrains (
  plan_id text PRIMARY KEY REFERENCES plans ON DELETE CASCADE,
  name text NOT NULL,
  west_deg float8 NOT NULL,
  north_deg float8 NOT NULL,
  cell_lon_deg float8 NOT NULL,
  cell_lat_deg float8 NOT NULL,
  columns int NOT NULL,
  rows int NOT NULL,
  -- Changes with every write, so that whoever keeps tiles knows when they are stale.
  version text NOT NULL
);

CREATE TABLE terrain_tiles (
  plan_id text NOT NULL REFERENCES terrains ON DELETE CASCADE,
  tile_index int NOT NULL,
  data bytea NOT NULL,
  PRIMARY KEY (plan_id, tile_index)
);
