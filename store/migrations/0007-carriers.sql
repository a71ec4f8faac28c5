-- A channel stands once, on the access point or bridge that sends on it, instead of in every radio that talks there.
CREATE TABLE carriers (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  id text NOT NULL,
  frequency_m_hz float8 NOT NULL,
  width_m_hz float8 NOT NULL,
  timing_group text NOT NULL,
  PRIMARY KEY (plan_id, id)
);
ALTER TABLE radios ADD COLUMN carrier_id text;

-- A far end shares the carrier of its access point or near end where both were alike; else it keeps one of its own.
UPDATE radios r SET carrier_id = coalesce(
  (SELECT a.id FROM links l JOIN radios a ON a.plan_id = l.plan_id AND a.id = l.a_radio_id
   WHERE l.plan_id = r.plan_id AND l.b_radio_id = r.id
     AND a.frequency_m_hz = r.frequency_m_hz AND a.width_m_hz = r.width_m_hz
   ORDER BY l.id LIMIT 1),
  r.id);
INSERT INTO carriers (plan_id, id, frequency_m_hz, width_m_hz, timing_group)
  SELECT plan_id, id, frequency_m_hz, width_m_hz, '' FROM radios r
  WHERE EXISTS (SELECT 1 FROM radios o WHERE o.plan_id = r.plan_id AND o.carrier_id = r.id);

ALTER TABLE radios ALTER COLUMN carrier_id SET NOT NULL;
ALTER TABLE radios ADD FOREIGN KEY (plan_id, carrier_id) REFERENCES carriers DEFERRABLE INITIALLY DEFERRED;
ALTER TABLE radios DROP COLUMN frequency_m_hz, DROP COLUMN width_m_hz;
-- Mounts are counted with the radios planned on them: what was free stays free.
UPDATE sites s SET free_mounts =
  least(99, free_mounts + (SELECT count(*) FROM radios r WHERE r.plan_id = s.plan_id AND r.site_id = s.id));

CREATE INDEX radios_of_carrier ON radios (plan_id, carrier_id);
CREATE INDEX radios_of_site ON radios (plan_id, site_id);
CREATE INDEX radios_of_subscriber ON radios (plan_id, subscriber_id);
CREATE INDEX links_of_a ON links (plan_id, a_radio_id);
CREATE INDEX links_of_b ON links (plan_id, b_radio_id);
CREATE INDEX measurements_of_link ON measurements (plan_id, link_id);
