import { invite, whoAsks } from "#accounts";
import { dropInvitation, listMembers, setRole } from "#store";
import { ROLES, type Role } from "#wire";
import { data, Form } from "react-router";
import { siteOf } from "../access/asker.server";
import { InvitationLink } from "../access/InvitationLink";
import { Invitations } from "../access/Invitations";
import { openInvitations } from "../access/openInvitations.server";
import { ROLE_WORDS } from "../access/roleWords";
import { requirePlanId } from "../requests/plan.server";
import { PlanFrame } from "../frame/PlanFrame";
import { Button, SelectField, Table } from "../ui";
import { formOf } from "../requests/asked.server";
import type { Route } from "./+types/members";

export async function loader({ params }: Route.LoaderArgs) {
  const { db } = await requirePlanId(params.planId);
  const { planId } = params;
  return { members: await listMembers(db, planId), invitations: await openInvitations(db, planId), planId };
}

const keptWords = (name: string, role: Role) => `${name} is ${ROLE_WORDS[role].name} from now on.`;
const roleFrom = (form: FormData): Role | null => ROLES.find((role) => role === form.get("role")) ?? null;

export async function action({ request, params, context }: Route.ActionArgs) {
  const { db } = await requirePlanId(params.planId);
  const form = await formOf(request);
  const role = roleFrom(form);
  const intent = form.get("intent");
  if (intent === "withdraw") {
    await dropInvitation(db, params.planId, String(form.get("id") ?? ""));
    return { invitation: null, problem: null, kept: "The invitation is withdrawn." };
  }
  if (intent !== "take-out" && !role) throw data(`The role must be one of ${ROLES.join(", ")}.`, { status: 400 });
  if (intent === "invite") {
    const token = await invite(db, { planId: params.planId, role, isKeeper: false }, whoAsks());
    return { invitation: `${siteOf(request, context).origin}/invitations/${token}`, problem: null, kept: null };
  }
  const accountId = String(form.get("id") ?? "");
  const member = (await listMembers(db, params.planId)).find(({ id }) => id === accountId);
  if (!member) throw data("Nobody of that name has a role in this plan.", { status: 404 });
  const isSet = await db.transaction((tx) =>
    setRole(tx, params.planId, accountId, intent === "take-out" ? null : role),
  );
  const kept = intent === "take-out" ? `${member.name} is out of this plan.` : keptWords(member.name, role!);
  return isSet
    ? { invitation: null, problem: null, kept }
    : data(
        { invitation: null, problem: "A plan keeps one owner: make somebody else an owner first.", kept: null },
        { status: 409 },
      );
}

/** Who may do what in one plan. */
export default function Members({ loaderData: { members, invitations }, actionData }: Route.ComponentProps) {
  return (
    <PlanFrame>
      <main className="mx-auto w-full max-w-2xl space-y-4 px-6 py-5">
        <title>People of this plan – Tejado</title>
        <h1 className="text-xl font-semibold">People of this plan</h1>
        <dl className="text-sm text-quiet">
          {ROLES.map((role) => (
            <div key={role}>
              <dt className="inline font-semibold">{ROLE_WORDS[role].name}</dt>{" "}
              <dd className="inline">{ROLE_WORDS[role].may}</dd>
            </div>
          ))}
        </dl>
        <Form method="post" className="flex items-end gap-2">
          <SelectField label="Invite as" name="role" defaultValue="planner">
            {ROLES.map((role) => (
              <option key={role} value={role}>
                {ROLE_WORDS[role].name}
              </option>
            ))}
          </SelectField>
          <Button type="submit" name="intent" value="invite" look="primary">
            Make a link
          </Button>
        </Form>
        {actionData?.invitation && <InvitationLink link={actionData.invitation} />}
        <p role="status" className="text-sm empty:hidden">
          {actionData?.kept}
        </p>
        {actionData?.problem && (
          <p role="alert" className="text-sm font-medium text-blocked">
            {actionData.problem}
          </p>
        )}
        <Invitations invitations={invitations} />
        {members.length === 0 ? (
          <p className="text-quiet">Nobody has a role here yet. Who keeps this Tejado may do everything.</p>
        ) : (
          <Table caption="Members" columns={[{ name: "Name" }, { name: "Role" }, { name: "Action", isHidden: true }]}>
            {members.map(({ id, name, login, role }) => (
              <tr key={id} data-member={login}>
                <td>
                  {name} <span className="figures text-xs text-quiet">{login}</span>
                </td>
                <td>
                  <Form method="post" className="flex items-center gap-1">
                    <input type="hidden" name="id" value={id} />
                    <select
                      name="role"
                      aria-label={`Role of ${name}`}
                      defaultValue={role}
                      className="rounded border border-rule bg-panel px-1 text-sm"
                    >
                      {ROLES.map((one) => (
                        <option key={one} value={one}>
                          {ROLE_WORDS[one].name}
                        </option>
                      ))}
                    </select>
                    <Button type="submit" className="px-1.5 py-0 text-xs" aria-label={`Keep the role of ${name}`}>
                      Keep
                    </Button>
                  </Form>
                </td>
                <td className="text-right">
                  <Form method="post">
                    <input type="hidden" name="id" value={id} />
                    <Button
                      type="submit"
                      name="intent"
                      value="take-out"
                      className="px-1.5 py-0 text-xs"
                      aria-label={`Take ${name} out of the plan`}
                    >
                      Take out
                    </Button>
                  </Form>
                </td>
              </tr>
            ))}
          </Table>
        )}
      </main>
    </PlanFrame>
  );
}
