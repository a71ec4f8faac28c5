-- In which stage of growth a link is built: crews get jobs for the first one, the later wait for their customers.
ALTER TABLE links ADD COLUMN growth_stage smallint NOT NULL DEFAULT 1 CHECK (growth_stage BETWEEN 1 AND 9);

-- Addresses that no radio may take, one entry a line: an address, a range or a network, and whose it is.
ALTER TABLE plans ADD COLUMN reserved_addresses text NOT NULL DEFAULT '';
