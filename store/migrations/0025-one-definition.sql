-- What a bridge must carry, Mbit/s; null takes it from what stands behind it.
ALTER TABLE links ADD COLUMN must_down_mbps double precision CHECK (must_down_mbps BETWEEN 0 AND 1000000);
ALTER TABLE links ADD COLUMN must_up_mbps double precision CHECK (must_up_mbps BETWEEN 0 AND 1000000);
-- Levels of a third and fourth chain, and the criteria that a measurement was judged by when it was taken.
ALTER TABLE measurements ADD COLUMN level_a2_dbm double precision;
ALTER TABLE measurements ADD COLUMN level_a3_dbm double precision;
ALTER TABLE measurements ADD COLUMN level_b2_dbm double precision;
ALTER TABLE measurements ADD COLUMN level_b3_dbm double precision;
ALTER TABLE measurements ADD COLUMN floor_dbm double precision;
ALTER TABLE measurements ADD COLUMN deviation_db double precision;
-- Spectrum for which the operator holds a licence or a registration.
ALTER TABLE plans ADD COLUMN licences jsonb NOT NULL DEFAULT '[]';
-- Cross section of a radio's own DC lead, mm².
ALTER TABLE radios ADD COLUMN lead_mm2 double precision NOT NULL DEFAULT 2.5;
