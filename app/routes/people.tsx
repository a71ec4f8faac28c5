import { invite, whoAsks } from "#accounts";
import { dropAccount, dropInvitation, dropSessions, listAccounts } from "#store";
import { data, Form } from "react-router";
import { AccessPage } from "../access/AccessPage";
import { siteOf } from "../access/asker.server";
import { InvitationLink } from "../access/InvitationLink";
import { Invitations } from "../access/Invitations";
import { openInvitations } from "../access/openInvitations.server";
import { getStore } from "../requests/store.server";
import { Button, Table } from "../ui";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/people";

export async function loader() {
  const { db } = await getStore();
  return {
    accounts: await listAccounts(db),
    invitations: await openInvitations(db, null),
    myId: whoAsks()?.id ?? null,
  };
}

export async function action({ request, context }: Route.ActionArgs) {
  const { db } = await getStore();
  const me = whoAsks();
  const form = await formOf(request);
  const intent = form.get("intent");
  if (intent === "invite" || intent === "invite-keeper") {
    const isKeeper = intent === "invite-keeper";
    const token = await invite(db, { planId: null, role: null, isKeeper }, me);
    return { invitation: `${siteOf(request, context).origin}/invitations/${token}` };
  }
  const id = String(form.get("id") ?? "");
  if (intent === "withdraw") {
    await dropInvitation(db, null, id);
    return { invitation: null };
  }
  const found = (await listAccounts(db)).find((one) => one.id === id);
  if (!found) throw data("There is no such account.", { status: 404 });
  if (intent === "sign-out") await dropSessions(db, id);
  else if (intent === "drop" && id !== me?.id) await dropAccount(db, id);
  else throw data("This cannot be done to that account.", { status: 400 });
  return { invitation: null };
}

/** Everybody with an account here, for those who keep this Tejado. */
export default function People({ loaderData: { accounts, invitations, myId }, actionData }: Route.ComponentProps) {
  return (
    <AccessPage title="People">
      <Form method="post" className="flex flex-wrap gap-2">
        <Button type="submit" name="intent" value="invite" look="primary">
          Invite somebody
        </Button>
        <Button type="submit" name="intent" value="invite-keeper">
          Invite another keeper
        </Button>
      </Form>
      {actionData?.invitation && <InvitationLink link={actionData.invitation} />}
      <Invitations invitations={invitations} />
      <Table caption="Accounts" columns={[{ name: "Name" }, { name: "Login" }, { name: "Action", isHidden: true }]}>
        {accounts.map(({ id, name, login, isKeeper }) => (
          <tr key={id} data-account={login}>
            <td>
              {name}
              {isKeeper && <span className="text-quiet"> · keeper</span>}
            </td>
            <td className="figures text-xs">{login}</td>
            <td className="text-right">
              {id !== myId && (
                <Form method="post" className="inline-flex gap-1">
                  <input type="hidden" name="id" value={id} />
                  <Button type="submit" name="intent" value="sign-out" className="px-1.5 py-0 text-xs">
                    Sign out
                  </Button>
                  <Button
                    type="submit"
                    name="intent"
                    value="drop"
                    aria-label={`Take the account of ${name} away`}
                    className="px-1.5 py-0 text-xs"
                  >
                    Take away
                  </Button>
                </Form>
              )}
            </td>
          </tr>
        ))}
      </Table>
    </AccessPage>
  );
}
