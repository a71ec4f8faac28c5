import { hashPassword, passwordProblem, presentPasswordProblem, tokenHashOf, whoAsks } from "#accounts";
import { dropPasskeys, dropSession, dropSessions, listPasskeys, listSessions, setPassword } from "#store";
import { formatDistanceToNow } from "date-fns";
import { data, Form, Link, redirect, useRevalidator } from "react-router";
import { toast } from "sonner";
import { AccessPage } from "../access/AccessPage";
import { browserWords } from "../access/browserWords";
import { accessInContext } from "../access/context";
import { PasskeyButton } from "../access/PasskeyButton";
import { noSessionCookie, sessionToken } from "../access/session";
import { getStore } from "../requests/store.server";
import { Button, buttonClass, TextField } from "../ui";
import { counted } from "#core/words";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/account";

const NOBODY = "Nobody signs in here: this Tejado answers its own machine only.";

export async function loader() {
  const account = whoAsks();
  if (!account) throw data(NOBODY, { status: 404 });
  const { db } = await getStore();
  const [sessions, passkeys] = [await listSessions(db, account.id), await listPasskeys(db, account.id)];
  return {
    account,
    passkeys: passkeys.length,
    sessions: sessions.map(({ browser, seenAt }) => ({
      browser: browserWords(browser),
      seen: formatDistanceToNow(seenAt),
    })),
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const account = whoAsks();
  if (!account) throw data(NOBODY, { status: 404 });
  const { db } = await getStore();
  const { isSecure } = context.get(accessInContext);
  const form = await formOf(request);
  const leave = () =>
    redirect("/sign-in", { headers: { "Set-Cookie": noSessionCookie(isSecure), "Clear-Site-Data": '"cache"' } });
  switch (form.get("intent")) {
    case "sign-out": {
      const token = sessionToken(request.headers.get("cookie"), isSecure);
      if (token) await dropSession(db, tokenHashOf(token));
      return leave();
    }
    case "sign-out-everywhere":
      await dropSessions(db, account.id);
      return leave();
    case "drop-passkeys":
      await dropPasskeys(db, account.id);
      return { problem: null };
    case "password": {
      const [now, next] = [String(form.get("now") ?? ""), String(form.get("next") ?? "")];
      const refused = await presentPasswordProblem(db, account, now);
      if (refused) return data({ problem: refused }, { status: 422 });
      const wrong = passwordProblem(next, account.login);
      if (wrong) return data({ problem: `The new password ${wrong}.` }, { status: 422 });
      await setPassword(db, account.id, await hashPassword(next));
      if (form.get("passkeys") === "drop") await dropPasskeys(db, account.id);
      await dropSessions(db, account.id);
      return leave();
    }
    default:
      throw data("The account cannot do this.", { status: 400 });
  }
}

/** What belongs to one account: its password, its passkeys, and where it is signed in. */
export default function OwnAccount({ loaderData: { account, passkeys, sessions }, actionData }: Route.ComponentProps) {
  const { revalidate } = useRevalidator();
  return (
    <AccessPage title={account.name}>
      <p className="text-quiet">
        Signed in as {account.login}
        {account.isKeeper && ", keeper of this Tejado"}.
      </p>
      <div className="flex flex-wrap gap-2">
        <Form method="post">
          <Button type="submit" name="intent" value="sign-out" look="primary">
            Sign out
          </Button>
        </Form>
        <Form method="post">
          <Button type="submit" name="intent" value="sign-out-everywhere">
            Sign out everywhere
          </Button>
        </Form>
        <Link to="/" className={buttonClass()}>
          Plans
        </Link>
        {account.isKeeper && (
          <Link to="/people" className={buttonClass()}>
            People
          </Link>
        )}
      </div>
      <section aria-labelledby="passkeys">
        <h2 id="passkeys" className="font-semibold">
          Passkeys
        </h2>
        <p className="text-sm text-quiet">
          {passkeys === 0 ? "None yet." : counted(passkeys, "passkey")} A passkey stays on your phone or machine and
          opens this account without the password.
        </p>
        <div className="mt-1 flex flex-wrap items-end gap-2">
          <PasskeyButton
            kind="register"
            onDone={() => {
              toast("The passkey opens this account now.");
              void revalidate();
            }}
          />
          {passkeys > 0 && (
            <Form method="post">
              <Button type="submit" name="intent" value="drop-passkeys">
                Take all passkeys away
              </Button>
            </Form>
          )}
        </div>
      </section>
      <section aria-labelledby="password">
        <h2 id="password" className="font-semibold">
          Password
        </h2>
        <Form method="post" className="space-y-2">
          <input type="hidden" name="intent" value="password" />
          <TextField name="now" type="password" label="Present password" autoComplete="current-password" />
          <TextField name="next" type="password" label="New password" autoComplete="new-password" />
          {passkeys > 0 && (
            <label className="flex items-center gap-1.5 text-sm">
              <input type="checkbox" name="passkeys" value="drop" className="accent-[var(--clay)]" />
              Take all passkeys away too: somebody else may have added one
            </label>
          )}
          {actionData?.problem && (
            <p role="alert" className="text-sm font-medium text-blocked">
              {actionData.problem}
            </p>
          )}
          <Button type="submit">Change it, and sign out everywhere</Button>
        </Form>
      </section>
      <section aria-labelledby="sessions">
        <h2 id="sessions" className="font-semibold">
          Signed in
        </h2>
        <ul className="text-sm">
          {sessions.map(({ browser, seen }, i) => (
            <li key={i}>
              {browser} <span className="text-quiet">· {seen} ago</span>
            </li>
          ))}
        </ul>
      </section>
    </AccessPage>
  );
}
