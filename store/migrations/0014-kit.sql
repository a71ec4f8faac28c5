-- How each radio is cabled and held and which firmware was found on it; a solar site's panels and battery, a site's addresses for
-- management, and what its structure may bear; gusts, days without sun and the budget of the plan.
ALTER TABLE radios
  ADD COLUMN indoor_m float8 NOT NULL DEFAULT 2,
  ADD COLUMN cable_kind text NOT NULL DEFAULT 'cat5e',
  ADD COLUMN bracket_id text,
  ADD COLUMN firmware text NOT NULL DEFAULT '';
ALTER TABLE sites
  ADD COLUMN panel_w float8 NOT NULL DEFAULT 0,
  ADD COLUMN battery_v float8 NOT NULL DEFAULT 24,
  ADD COLUMN battery_ah float8 NOT NULL DEFAULT 0,
  ADD COLUMN battery_kind text NOT NULL DEFAULT 'lead',
  ADD COLUMN other_load_w float8 NOT NULL DEFAULT 5,
  ADD COLUMN clearness float8,
  ADD COLUMN subnet text NOT NULL DEFAULT '',
  ADD COLUMN gateway text NOT NULL DEFAULT '',
  ADD COLUMN mast_moment_nm float8 NOT NULL DEFAULT 0;
ALTER TABLE plans
  ADD COLUMN gust_m_per_s float8 NOT NULL DEFAULT 40,
  ADD COLUMN sunless_days float8 NOT NULL DEFAULT 4,
  ADD COLUMN budget_eur float8 NOT NULL DEFAULT 0;
