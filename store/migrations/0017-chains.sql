-- Chains told joint by joint: jumpers, wiring and arresters of each radio; a site's switch, its battery behind the mains, the foot of a
-- mount that is not bolted, and networks by role; the ice that masts are reckoned with.
ALTER TABLE radios
  ADD COLUMN jumper_m float8 NOT NULL DEFAULT 0,
  ADD COLUMN wiring text NOT NULL DEFAULT 'straight',
  ADD COLUMN arresters int NOT NULL DEFAULT 2;
ALTER TABLE sites
  ADD COLUMN switch_part_id text,
  ADD COLUMN ups_wh float8 NOT NULL DEFAULT 0,
  ADD COLUMN ballast_base_m float8 NOT NULL DEFAULT 0,
  ADD COLUMN ballast_foot_m float8 NOT NULL DEFAULT 0,
  ADD COLUMN client_subnet text NOT NULL DEFAULT '',
  ADD COLUMN vlan int NOT NULL DEFAULT 0,
  ADD COLUMN client_vlan int NOT NULL DEFAULT 0;
ALTER TABLE plans ADD COLUMN ice_mm float8 NOT NULL DEFAULT 0;
