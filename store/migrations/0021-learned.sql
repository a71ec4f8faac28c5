-- What readings taught about a plan's predictions; null where nothing was taken over.
ALTER TABLE plans ADD COLUMN learned jsonb;
