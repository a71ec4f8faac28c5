-- The level at which customers are to arrive at their access point; null leaves each radio at its own power.
ALTER TABLE carriers ADD COLUMN arrive_at_dbm float8;
