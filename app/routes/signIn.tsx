import { signIn } from "#accounts";
import { useEffect } from "react";
import { data, Form, redirect, useNavigation } from "react-router";
import { AccessPage } from "../access/AccessPage";
import { askerOf } from "../access/asker.server";
import { accessInContext } from "../access/context";
import { ownPath } from "../access/ownPath";
import { PasskeyButton } from "../access/PasskeyButton";
import { forgetPictures } from "../shared/forgetPictures";
import { knownCookie, knownMarks, sessionCookie } from "../access/session";
import { getStore } from "../requests/store.server";
import { Button, TextField } from "../ui";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/signIn";

export function loader({ url, context }: Route.LoaderArgs) {
  const to = ownPath(url.searchParams.get("to"));
  const { isOpen, account } = context.get(accessInContext);
  if (!isOpen || account) throw redirect(to);
  return { to };
}

export async function action({ request, context }: Route.ActionArgs) {
  const form = await formOf(request);
  const text = (name: string) => String(form.get(name) ?? "").slice(0, 300);
  const { db } = await getStore();
  const signed = await signIn(db, text("login"), text("password"), askerOf(request, context));
  if (signed.token === null) return data({ problem: signed.problem, login: text("login") }, { status: 401 });
  const { isSecure } = context.get(accessInContext);
  const headers = new Headers({ "Set-Cookie": sessionCookie(signed.token, isSecure) });
  if (signed.mark !== null)
    headers.append("Set-Cookie", knownCookie(signed.mark, knownMarks(request.headers.get("cookie")), isSecure));
  return redirect(ownPath(form.get("to")), { headers });
}

export default function SignIn({ loaderData: { to }, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== "idle";
  // Whoever was signed in here is so no more.
  useEffect(() => void forgetPictures(), []);
  return (
    <AccessPage title="Sign in">
      <Form method="post" className="space-y-3">
        <input type="hidden" name="to" value={to} />
        <TextField
          name="login"
          label="Login"
          autoComplete="username webauthn"
          autoCapitalize="none"
          defaultValue={actionData?.login ?? ""}
        />
        <TextField name="password" type="password" label="Password" autoComplete="current-password" />
        {actionData && (
          <p role="alert" className="text-sm font-medium text-blocked">
            {actionData.problem}
          </p>
        )}
        <div className="flex gap-2">
          <Button type="submit" look="primary" disabled={busy}>
            Sign in
          </Button>
          <PasskeyButton kind="sign-in" onDone={() => window.location.assign(to)} />
        </div>
      </Form>
      <p className="text-sm text-quiet">
        Accounts are made by invitation: ask whoever keeps this Tejado, or an owner of the plan, for a link.
      </p>
    </AccessPage>
  );
}
