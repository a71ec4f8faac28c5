-- What is in store of each item of the library, ordered, arrived and packed, in pieces or metres. It is about what was bought, not about
-- the plan: taking back a change does not send a parcel back.
CREATE TABLE stock (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  item_id text NOT NULL,
  in_store float8 NOT NULL DEFAULT 0,
  ordered float8 NOT NULL DEFAULT 0,
  arrived float8 NOT NULL DEFAULT 0,
  packed float8 NOT NULL DEFAULT 0,
  changed bigint NOT NULL DEFAULT nextval('beside_changes'),
  PRIMARY KEY (plan_id, item_id)
);
