-- What customers pay a month and what work costs: both say at how many customers a sector pays for itself.
ALTER TABLE plans
  ADD COLUMN tiers jsonb NOT NULL DEFAULT '[]',
  ADD COLUMN usual_month_eur float8 NOT NULL DEFAULT 0,
  ADD COLUMN sector_work_eur float8 NOT NULL DEFAULT 0,
  ADD COLUMN customer_work_eur float8 NOT NULL DEFAULT 0;
