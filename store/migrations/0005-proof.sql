-- What a reading was promised besides its level: throughput each way, and the noise planned on one chain at either end.
ALTER TABLE measurements
  ADD COLUMN expected_down_mbps float8,
  ADD COLUMN expected_up_mbps float8,
  ADD COLUMN expected_noise_a_dbm float8,
  ADD COLUMN expected_noise_b_dbm float8;
