-- Long work as its watchers see it; pg-boss says whose turn it is, under the same id. What belongs to no plan names "-".
CREATE TABLE jobs (
  id text PRIMARY KEY,
  plan_id text NOT NULL,
  kind text NOT NULL,
  title text NOT NULL,
  work_order jsonb NOT NULL,
  state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed', 'stopped')),
  done_share float8 NOT NULL DEFAULT 0,
  message text NOT NULL DEFAULT 'Waiting for its turn',
  result_url text,
  result jsonb,
  -- How often it was begun: a process may have died over it.
  tries int NOT NULL DEFAULT 0,
  stop_asked boolean NOT NULL DEFAULT false,
  created_at timestamptz NOT NULL DEFAULT now(),
  alive_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX jobs_by_plan ON jobs (plan_id, created_at);
