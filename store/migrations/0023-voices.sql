-- What a crew spoke, beside the note that says so.
ALTER TABLE field_notes ADD COLUMN voice bytea;
