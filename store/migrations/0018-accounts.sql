-- Who may do what once Tejado answers beyond its own machine: accounts with their passwords and passkeys, what is signed in, invitations,
-- and roles in plans. Tokens lie here as their SHA-256 only.
CREATE TABLE accounts (
  id text PRIMARY KEY,
  login text NOT NULL UNIQUE,
  name text NOT NULL,
  is_keeper boolean NOT NULL DEFAULT false,
  password_hash text,
  created_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE passkeys (
  id text PRIMARY KEY,
  account_id text NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  public_key text NOT NULL,
  counter bigint NOT NULL DEFAULT 0,
  added_at timestamptz NOT NULL DEFAULT now()
);
CREATE TABLE sessions (
  token_hash text PRIMARY KEY,
  account_id text NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  browser text NOT NULL DEFAULT '',
  created_at timestamptz NOT NULL DEFAULT now(),
  seen_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX sessions_account ON sessions (account_id);
CREATE TABLE members (
  plan_id text NOT NULL REFERENCES plans(id) ON DELETE CASCADE,
  account_id text NOT NULL REFERENCES accounts(id) ON DELETE CASCADE,
  role text NOT NULL,
  PRIMARY KEY (plan_id, account_id)
);
CREATE TABLE invitations (
  token_hash text PRIMARY KEY,
  plan_id text REFERENCES plans(id) ON DELETE CASCADE,
  role text,
  is_keeper boolean NOT NULL DEFAULT false,
  made_by text NOT NULL,
  made_at timestamptz NOT NULL DEFAULT now()
);
