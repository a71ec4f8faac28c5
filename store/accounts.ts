import { INVITATION_DAYS, type Role } from "#wire";
import type { Queries } from "./db";

/** The account that a signature in the record stands for; null where nobody was signed in. */
export const accountOf = (author: string): string | null =>
  author.startsWith(SIGNED) ? author.slice(SIGNED.length) : null;
const SIGNED = "account:";

/** Somebody who signs in. */
export interface Account {
  id: string;
  /** As it is typed to sign in, in small letters. */
  login: string;
  /** As it stands in the logbook. */
  name: string;
  /** Keeps this Tejado: invites, backs up and restores, and is an owner of every plan. */
  isKeeper: boolean;
}

const ACCOUNT = `id, login, name, is_keeper AS "isKeeper"`;

/** Accounts, the first one first. */
export async function listAccounts(db: Queries): Promise<Account[]> {
  return (await db.query<Account>(`SELECT ${ACCOUNT} FROM accounts ORDER BY created_at, login`, [])).rows;
}

export async function hasAccounts(db: Queries): Promise<boolean> {
  return (await db.query("SELECT 1 FROM accounts LIMIT 1", [])).rows.length > 0;
}

/** The account of a login with its password's hash, which is null where only passkeys open it; null for an unknown login. */
export async function accountByLogin(
  db: Queries,
  login: string,
): Promise<(Account & { passwordHash: string | null }) | null> {
  const { rows } = await db.query<Account & { passwordHash: string | null }>(
    `SELECT ${ACCOUNT}, password_hash AS "passwordHash" FROM accounts WHERE login = $1`,
    [login],
  );
  return rows[0] ?? null;
}

/** Makes an account; false where its login is taken. */
export async function createAccount(
  db: Queries,
  { id, login, name, isKeeper }: Account,
  passwordHash: string | null,
): Promise<boolean> {
  const { rows } = await db.query(
    `INSERT INTO accounts (id, login, name, is_keeper, password_hash) VALUES ($1, $2, $3, $4, $5)
     ON CONFLICT (login) DO NOTHING RETURNING id`,
    [id, login, name, isKeeper, passwordHash],
  );
  return rows.length > 0;
}

export async function setPassword(db: Queries, accountId: string, passwordHash: string): Promise<void> {
  await db.query("UPDATE accounts SET password_hash = $2 WHERE id = $1", [accountId, passwordHash]);
}

/** Takes an account away with all that it signed in with; what it did stays in the logbooks. */
export async function dropAccount(db: Queries, accountId: string): Promise<void> {
  await db.query("DELETE FROM accounts WHERE id = $1", [accountId]);
}

/** How long somebody stays signed in who does not come back, and at most, days. */
const IDLE_DAYS = 30;
const LONGEST_DAYS = 180;
/** Looking in is noted this seldom, so that reading a plan does not write. */
const SEEN_AFTER_MINUTES = 10;

export async function createSession(
  db: Queries,
  session: { tokenHash: string; accountId: string; browser: string },
): Promise<void> {
  await db.query("INSERT INTO sessions (token_hash, account_id, browser) VALUES ($1, $2, $3)", [
    session.tokenHash,
    session.accountId,
    session.browser,
  ]);
}

/** Who is signed in under a token; null for a session that is unknown or over. */
export async function sessionAccount(db: Queries, tokenHash: string): Promise<Account | null> {
  const { rows } = await db.query<Account & { isStale: boolean }>(
    `SELECT a.id, a.login, a.name, a.is_keeper AS "isKeeper",
       s.seen_at < now() - interval '${SEEN_AFTER_MINUTES} minutes' AS "isStale"
     FROM sessions s JOIN accounts a ON a.id = s.account_id
     WHERE s.token_hash = $1 AND s.seen_at > now() - interval '${IDLE_DAYS} days'
       AND s.created_at > now() - interval '${LONGEST_DAYS} days'`,
    [tokenHash],
  );
  if (!rows[0]) return null;
  const { isStale, ...account } = rows[0];
  if (isStale) await db.query("UPDATE sessions SET seen_at = now() WHERE token_hash = $1", [tokenHash]);
  return account;
}

/** Signs one session out, or all of an account. */
export async function dropSession(db: Queries, tokenHash: string): Promise<void> {
  await db.query("DELETE FROM sessions WHERE token_hash = $1", [tokenHash]);
}
export async function dropSessions(db: Queries, accountId: string): Promise<void> {
  await db.query("DELETE FROM sessions WHERE account_id = $1", [accountId]);
}

/** Where an account is signed in, the newest first. */
export async function listSessions(db: Queries, accountId: string): Promise<{ browser: string; seenAt: Date }[]> {
  const { rows } = await db.query<{ browser: string; seenAt: Date | string }>(
    `SELECT browser, seen_at AS "seenAt" FROM sessions WHERE account_id = $1 ORDER BY seen_at DESC`,
    [accountId],
  );
  return rows.map(({ browser, seenAt }) => ({ browser, seenAt: new Date(seenAt) }));
}

/** A key that a browser or phone holds in place of a password. */
export interface Passkey {
  id: string;
  accountId: string;
  /** Base64url. */
  publicKey: string;
  counter: number;
}
const PASSKEY = `id, account_id AS "accountId", public_key AS "publicKey", counter::float8 AS counter`;

export async function listPasskeys(db: Queries, accountId: string): Promise<Passkey[]> {
  return (
    await db.query<Passkey>(`SELECT ${PASSKEY} FROM passkeys WHERE account_id = $1 ORDER BY added_at`, [accountId])
  ).rows;
}
/** A passkey with its account; null where nobody has it. */
export async function passkeyOf(db: Queries, id: string): Promise<Passkey | null> {
  return (await db.query<Passkey>(`SELECT ${PASSKEY} FROM passkeys WHERE id = $1`, [id])).rows[0] ?? null;
}
export async function addPasskey(db: Queries, { id, accountId, publicKey, counter }: Passkey): Promise<void> {
  await db.query("INSERT INTO passkeys (id, account_id, public_key, counter) VALUES ($1, $2, $3, $4)", [
    ...[id, accountId, publicKey, counter],
  ]);
}
export async function setPasskeyCounter(db: Queries, id: string, counter: number): Promise<void> {
  await db.query("UPDATE passkeys SET counter = $2 WHERE id = $1", [id, counter]);
}
export async function dropPasskeys(db: Queries, accountId: string): Promise<void> {
  await db.query("DELETE FROM passkeys WHERE account_id = $1", [accountId]);
}

/** What an account may do in a plan; null for nothing. */
export async function roleIn(db: Queries, planId: string, accountId: string): Promise<Role | null> {
  const { rows } = await db.query<{ role: Role }>("SELECT role FROM members WHERE plan_id = $1 AND account_id = $2", [
    planId,
    accountId,
  ]);
  return rows[0]?.role ?? null;
}

/** Plans that an account has a role in. */
export async function rolesOf(db: Queries, accountId: string): Promise<Map<string, Role>> {
  const { rows } = await db.query<{ planId: string; role: Role }>(
    `SELECT plan_id AS "planId", role FROM members WHERE account_id = $1`,
    [accountId],
  );
  return new Map(rows.map(({ planId, role }) => [planId, role]));
}

export interface Member extends Account {
  role: Role;
}
export async function listMembers(db: Queries, planId: string): Promise<Member[]> {
  const { rows } = await db.query<Member>(
    `SELECT a.id, a.login, a.name, a.is_keeper AS "isKeeper", m.role
     FROM members m JOIN accounts a ON a.id = m.account_id WHERE m.plan_id = $1 ORDER BY a.name`,
    [planId],
  );
  return rows;
}

/** Gives an account a role in a plan, or takes it away; a plan keeps an owner once it has one: false where it would have none. */
export async function setRole(db: Queries, planId: string, accountId: string, role: Role | null): Promise<boolean> {
  if (role !== "owner") {
    const { rows } = await db.query<{ account_id: string }>(
      "SELECT account_id FROM members WHERE plan_id = $1 AND role = 'owner' FOR UPDATE",
      [planId],
    );
    if (rows.length === 1 && rows[0]!.account_id === accountId) return false;
  }
  if (role === null) await db.query("DELETE FROM members WHERE plan_id = $1 AND account_id = $2", [planId, accountId]);
  else
    await db.query(
      `INSERT INTO members (plan_id, account_id, role) VALUES ($1, $2, $3)
       ON CONFLICT (plan_id, account_id) DO UPDATE SET role = EXCLUDED.role`,
      [planId, accountId, role],
    );
  return true;
}

/** Makes an account a keeper of this Tejado. */
export async function setKeeper(db: Queries, accountId: string): Promise<void> {
  await db.query("UPDATE accounts SET is_keeper = true WHERE id = $1", [accountId]);
}

/** What an invitation gives to whoever takes it: a role in a plan, or the keeping of this Tejado, or an account alone. */
export interface Invitation {
  planId: string | null;
  role: Role | null;
  isKeeper: boolean;
  madeBy: string;
}

/** Makes an invitation. It rests on the right of the account `madeById`, and ends with it; null where nobody signs in. */
export async function createInvitation(
  db: Queries,
  tokenHash: string,
  given: Invitation,
  madeById: string | null,
): Promise<void> {
  await db.query(
    "INSERT INTO invitations (token_hash, plan_id, role, is_keeper, made_by, made_by_id) VALUES ($1, $2, $3, $4, $5, $6)",
    [...[tokenHash, given.planId, given.role, given.isKeeper, given.madeBy, madeById]],
  );
}
const INVITATION = `plan_id AS "planId", role, is_keeper AS "isKeeper", made_by AS "madeBy"`;
/** Its week is not over, and whoever made it may still make it: a keeper any, an owner one to the plan. */
const STANDS = `made_at > now() - interval '${INVITATION_DAYS} days' AND (made_by_id IS NULL
  OR EXISTS (SELECT 1 FROM accounts a WHERE a.id = made_by_id AND a.is_keeper)
  OR (NOT is_keeper AND EXISTS (SELECT 1 FROM members m
    WHERE m.account_id = made_by_id AND m.plan_id = invitations.plan_id AND m.role = 'owner')))`;

/** An invitation that still stands; null for one that was taken, is over, or never was. */
export async function invitationOf(db: Queries, tokenHash: string): Promise<Invitation | null> {
  const { rows } = await db.query<Invitation>(
    `SELECT ${INVITATION} FROM invitations WHERE token_hash = $1 AND ${STANDS}`,
    [tokenHash],
  );
  return rows[0] ?? null;
}
/** Takes an invitation, so that nobody takes it again. */
export async function takeInvitation(db: Queries, tokenHash: string): Promise<Invitation | null> {
  const { rows } = await db.query<Invitation>(
    `DELETE FROM invitations WHERE token_hash = $1 AND ${STANDS} RETURNING ${INVITATION}`,
    [tokenHash],
  );
  return rows[0] ?? null;
}

/** An invitation in a list: under an id that opens nothing. */
export interface ListedInvitation extends Invitation {
  id: string;
  madeAt: Date;
}
const LISTED_ID = "left(token_hash, 20)";

/** Invitations to a plan that still stand, or with null those to this Tejado; the newest first. */
export async function listInvitations(db: Queries, planId: string | null): Promise<ListedInvitation[]> {
  const { rows } = await db.query<ListedInvitation>(
    `SELECT ${LISTED_ID} AS id, made_at AS "madeAt", ${INVITATION} FROM invitations
     WHERE plan_id IS NOT DISTINCT FROM $1 AND ${STANDS} ORDER BY made_at DESC`,
    [planId],
  );
  return rows.map((row) => ({ ...row, madeAt: new Date(row.madeAt) }));
}

/** Withdraws an invitation to a plan, or with null one to this Tejado. */
export async function dropInvitation(db: Queries, planId: string | null, id: string): Promise<void> {
  await db.query(`DELETE FROM invitations WHERE plan_id IS NOT DISTINCT FROM $1 AND ${LISTED_ID} = $2`, [planId, id]);
}
