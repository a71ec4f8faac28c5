import { acceptInvitation, INVITATION_OVER, openSession, takeAs, tokenHashOf, type Problems } from "#accounts";
import { invitationOf, readPlanName } from "#store";
import { data, Form, redirect, useNavigation } from "react-router";
import { AccessPage } from "../access/AccessPage";
import { askerOf } from "../access/asker.server";
import { accessInContext } from "../access/context";
import { NewAccountFields } from "../access/NewAccountFields";
import { ROLE_WORDS } from "../access/roleWords";
import { sessionCookie } from "../access/session";
import { getStore } from "../requests/store.server";
import { Button } from "../ui";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/invitation";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { db } = await getStore();
  const found = await invitationOf(db, tokenHashOf(params.token));
  if (!found) throw data(INVITATION_OVER, { status: 404 });
  const { planId, role, isKeeper, madeBy } = found;
  const planName = planId === null ? null : await readPlanName(db, planId);
  return { planName, role, isKeeper, madeBy, me: context.get(accessInContext).account?.name ?? null };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const { db } = await getStore();
  const form = await formOf(request);
  const { account: me, isSecure } = context.get(accessInContext);
  if (me && form.get("intent") === "take") {
    const taken = await takeAs(db, params.token, me);
    if ("problem" in taken)
      return data({ problems: { invitation: taken.problem }, typed: { login: "", name: "" } }, { status: 422 });
    return redirect(taken.planId ? `/plans/${encodeURIComponent(taken.planId)}/crew` : "/");
  }
  const text = (name: string) => String(form.get(name) ?? "").slice(0, 300);
  const typed = { login: text("login"), name: text("name"), password: text("password") };
  const made = await acceptInvitation(db, params.token, typed);
  if ("problems" in made) return data({ problems: made.problems, typed }, { status: 422 });
  const token = await openSession(db, made.account.id, askerOf(request, context));
  return redirect("/", { headers: { "Set-Cookie": sessionCookie(token, isSecure) } });
}

const NONE: Problems = {};

export default function Invited({
  loaderData: { planName, role, isKeeper, madeBy, me },
  actionData,
}: Route.ComponentProps) {
  const busy = useNavigation().state !== "idle";
  const problems = actionData?.problems ?? NONE;
  return (
    <AccessPage title="You are invited">
      <p>
        {madeBy} invites you to {planName && role ? `${planName}, as ${ROLE_WORDS[role].name}` : "this Tejado"}
        {isKeeper && ", to keep it: to invite others, to back up and to restore"}.
      </p>
      {problems.invitation && (
        <p role="alert" className="text-sm font-medium text-blocked">
          {problems.invitation}
        </p>
      )}
      {me ? (
        <Form method="post">
          <Button type="submit" name="intent" value="take" look="primary" disabled={busy}>
            Take it as {me}
          </Button>
        </Form>
      ) : (
        <Form method="post" className="space-y-3">
          <NewAccountFields problems={problems} typed={actionData?.typed ?? { login: "", name: "" }} />
          <Button type="submit" look="primary" disabled={busy}>
            Make my account
          </Button>
          <p className="text-sm text-quiet">
            Whoever has an account already signs in first, then opens this link again.
          </p>
        </Form>
      )}
    </AccessPage>
  );
}
