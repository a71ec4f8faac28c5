-- The record by field: each change raises its plan's revision and keeps, for every row, the fields that it set with what
-- stood there before. Its author's last one can be taken back, whoever changed what else since.
ALTER TABLE plans ADD COLUMN revision bigint NOT NULL DEFAULT 0;

ALTER TABLE history
  ADD COLUMN revision bigint NOT NULL DEFAULT 0,
  -- Made by whoever sent the change: the same one twice is kept once. Empty for what came from no window.
  ADD COLUMN op text NOT NULL DEFAULT '',
  -- Whose undo it is.
  ADD COLUMN author text NOT NULL DEFAULT '',
  -- The migration under whose schema its patches were written.
  ADD COLUMN schema int NOT NULL DEFAULT 0,
  -- [{kind, id, set, was} | {kind, id, put} | {kind, id, remove, was}] in the order in which they were applied
  ADD COLUMN patches jsonb NOT NULL DEFAULT '[]',
  -- 'inForce', 'undone', or 'done' for what can be neither taken back nor put back
  ADD COLUMN state text NOT NULL DEFAULT 'done';

UPDATE history h SET
  revision = numbered.revision,
  author = 'name:' || h.who,
  schema = coalesce((SELECT max(number) FROM migrations m WHERE m.applied_at <= h.at), 5),
  state = coalesce(
    (SELECT CASE WHEN s.undone THEN 'undone' ELSE 'inForce' END FROM history_stack s WHERE s.history_id = h.id LIMIT 1),
    'done'),
  patches = coalesce(
    (SELECT jsonb_agg(
       jsonb_build_object('kind', edit->'kind', 'id', edit->'id') ||
       CASE
         WHEN edit->'before' = 'null' THEN jsonb_build_object('put', edit->'after')
         WHEN edit->'after' = 'null' THEN jsonb_build_object('remove', true, 'was', edit->'before')
         ELSE
           (SELECT jsonb_build_object(
              'set', coalesce(jsonb_object_agg(key, value), '{}'),
              'was', coalesce(jsonb_object_agg(key, edit->'before'->key), '{}'))
            FROM jsonb_each(edit->'after')
            WHERE edit->'before'->key IS DISTINCT FROM value)
       END
       ORDER BY place)
     FROM jsonb_array_elements(h.edits) WITH ORDINALITY AS kept(edit, place)
     WHERE edit->'before' <> 'null' OR edit->'after' <> 'null'),
    '[]')
FROM (SELECT id, row_number() OVER (PARTITION BY plan_id ORDER BY id) AS revision FROM history) numbered
WHERE numbered.id = h.id;

UPDATE plans SET revision = coalesce((SELECT max(revision) FROM history WHERE plan_id = plans.id), 0);

-- A named version says as of which revision it stands.
ALTER TABLE versions RENAME COLUMN history_id TO revision;
UPDATE versions v SET revision = coalesce((SELECT h.revision FROM history h WHERE h.id = v.revision), 0);

DROP TABLE history_stack;
ALTER TABLE history DROP COLUMN edits;
CREATE UNIQUE INDEX history_revision ON history (plan_id, revision);
CREATE UNIQUE INDEX history_op ON history (plan_id, op) WHERE op <> '';

-- Rasters whose tiles are being written: they are nobody's rubbish while somebody is at work on them.
CREATE TABLE imports (
  plan_id text NOT NULL REFERENCES plans ON DELETE CASCADE,
  layer_id text NOT NULL,
  touched_at timestamptz NOT NULL DEFAULT now(),
  PRIMARY KEY (plan_id, layer_id)
);
