-- How many customers' demand one demand's worth of air and backhaul serves at the busy hour, how fast demand grows, and an
-- access point's own share of the frame; null leaves the share to its radio.
ALTER TABLE plans
  ADD COLUMN oversubscription float8 NOT NULL DEFAULT 1,
  ADD COLUMN growth_percent float8 NOT NULL DEFAULT 0;
ALTER TABLE carriers ADD COLUMN down_share float8;
