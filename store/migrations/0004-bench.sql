-- Climate by latitude, schools of clearance, seasons, rules of a plan's own; trees measured in the ray.
ALTER TABLE plans ALTER COLUMN rain_rate001_mm_per_h DROP NOT NULL;
ALTER TABLE plans
  ADD COLUMN own_rules jsonb NOT NULL DEFAULT '[]',
  ADD COLUMN d_n1_n_per_km float8,
  ADD COLUMN clearance_school text NOT NULL DEFAULT 'sixtyPercent',
  ADD COLUMN climate text NOT NULL DEFAULT 'temperate',
  ADD COLUMN season text NOT NULL DEFAULT 'inLeaf',
  ADD COLUMN pointing_error_deg float8 NOT NULL DEFAULT 0;
ALTER TABLE links ALTER COLUMN foliage_depth_m DROP NOT NULL;
