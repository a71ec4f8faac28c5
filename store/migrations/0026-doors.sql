-- Whose right an invitation rests on: it ends with that account, or with its right. Null where nobody signs in.
ALTER TABLE invitations ADD COLUMN made_by_id text REFERENCES accounts (id) ON DELETE CASCADE;
UPDATE invitations SET made_by_id = (SELECT min(id) FROM accounts WHERE name = made_by)
WHERE (SELECT count(*) FROM accounts WHERE name = made_by) = 1;
