import { randomUUID } from "node:crypto";
import {
  createAccount,
  createInvitation,
  invitationOf,
  roleIn,
  setKeeper,
  setRole,
  takeInvitation,
  type Account,
  type Db,
  type Invitation,
  type Queries,
} from "#store";
import { ROLES } from "#wire";
import { hashPassword, passwordProblem } from "./password";
import { plainLogin } from "./signIn";
import { newToken, tokenHashOf } from "./tokens";

/** Creates an invitation by `maker`; returns the token for its link. */
export async function invite(db: Queries, given: Omit<Invitation, "madeBy">, maker: Account | null): Promise<string> {
  const { token, tokenHash } = newToken();
  await createInvitation(db, tokenHash, { ...given, madeBy: maker?.name ?? "The keeper" }, maker?.id ?? null);
  return token;
}

/** A new account as somebody typed it. */
export interface NewAccount {
  login: string;
  name: string;
  password: string;
}
export type Problems = Partial<Record<keyof NewAccount | "invitation", string>>;

const LOGIN = /^[a-z0-9][a-z0-9._@+-]{1,79}$/;
const MOST_NAME = 80;

/** What is wrong with a new account, by field. */
function accountProblems({ login, name, password }: NewAccount): Problems {
  const plain = plainLogin(login);
  const problems: Problems = {};
  if (!LOGIN.test(plain)) problems.login = "must have 2 to 80 letters, digits, or . _ @ + -";
  if (name.trim() === "") problems.name = "must not be empty";
  else if (name.trim().length > MOST_NAME) problems.name = `must have ${MOST_NAME} characters or fewer`;
  const wrong = passwordProblem(password, plain);
  if (wrong) problems.password = wrong;
  return problems;
}

/** Makes an account. Gives what is wrong instead where it cannot be made. */
export async function makeAccount(
  db: Queries,
  typed: NewAccount,
  isKeeper: boolean,
): Promise<{ account: Account } | { problems: Problems }> {
  const problems = accountProblems(typed);
  if (Object.keys(problems).length > 0) return { problems };
  const account = { id: randomUUID(), login: plainLogin(typed.login), name: typed.name.trim(), isKeeper };
  const isMade = await createAccount(db, account, await hashPassword(typed.password));
  return isMade ? { account } : { problems: { login: "is taken; choose another" } };
}

/** Thrown inside the taking of an invitation, so that nothing of it is kept. */
class NotTaken extends Error {
  constructor(readonly problems: Problems) {
    super();
  }
}

/** Makes the account that an invitation is for, with what it gives; the invitation is spent only where that works. */
export async function acceptInvitation(
  db: Db,
  token: string,
  typed: NewAccount,
): Promise<{ account: Account; planId: string | null } | { problems: Problems }> {
  try {
    return await db.transaction(async (tx) => {
      const given = await takeInvitation(tx, tokenHashOf(token));
      if (!given) throw new NotTaken({ invitation: INVITATION_OVER });
      const made = await makeAccount(tx, typed, given.isKeeper);
      if ("problems" in made) throw new NotTaken(made.problems);
      if (given.planId !== null && given.role !== null) await setRole(tx, given.planId, made.account.id, given.role);
      return { account: made.account, planId: given.planId };
    });
  } catch (error) {
    if (error instanceof NotTaken) return { problems: error.problems };
    throw error;
  }
}

/** What is told where an invitation cannot be taken any more. */
export const INVITATION_OVER = "This invitation was taken already, was withdrawn, or is over. Ask for another.";

/** Accepts an invitation for an existing account. Returns the reason instead when it cannot; the invitation then stays open. */
export async function takeAs(
  db: Db,
  token: string,
  me: Account,
): Promise<{ planId: string | null } | { problem: string }> {
  return db.transaction(async (tx) => {
    const tokenHash = tokenHashOf(token);
    const given = await invitationOf(tx, tokenHash);
    if (!given) return { problem: INVITATION_OVER };
    const { planId, role, isKeeper } = given;
    const has = planId === null ? null : await roleIn(tx, planId, me.id);
    const raises = role !== null && (has === null || ROLES.indexOf(role) < ROLES.indexOf(has));
    if (!raises && (!isKeeper || me.isKeeper))
      return { problem: "You already have this access. The invitation stays open for the person it was made for." };
    if (!(await takeInvitation(tx, tokenHash))) return { problem: INVITATION_OVER };
    if (planId !== null && raises) await setRole(tx, planId, me.id, role);
    if (isKeeper) await setKeeper(tx, me.id);
    return { planId };
  });
}
