import { INVITATION_DAYS } from "#wire";
import { Form } from "react-router";
import { Button, Table } from "../ui";

export interface OpenInvitation {
  id: string;
  /** What it gives, in words. */
  gives: string;
  madeBy: string;
  /** "2 days ago". */
  madeAgo: string;
}

/** Invitations that nobody has taken yet, each to be withdrawn. */
export function Invitations({ invitations }: { invitations: readonly OpenInvitation[] }) {
  if (invitations.length === 0) return null;
  return (
    <section aria-labelledby="invitations">
      <h2 id="invitations" className="font-semibold">
        Open invitations
      </h2>
      <p className="mb-2 text-sm text-quiet">
        A link ends after {INVITATION_DAYS} days, when it is withdrawn, or when its author can no longer invite.
      </p>
      <Table
        caption="Invitations"
        columns={[{ name: "As" }, { name: "Made by" }, { name: "When" }, { name: "Action", isHidden: true }]}
      >
        {invitations.map(({ id, gives, madeBy, madeAgo }) => (
          <tr key={id}>
            <td>{gives}</td>
            <td>{madeBy}</td>
            <td>{madeAgo} ago</td>
            <td className="text-right">
              <Form method="post">
                <input type="hidden" name="id" value={id} />
                <Button
                  type="submit"
                  name="intent"
                  value="withdraw"
                  className="px-1.5 py-0 text-xs"
                  aria-label={`Withdraw the invitation by ${madeBy} as ${gives}`}
                >
                  Withdraw
                </Button>
              </Form>
            </td>
          </tr>
        ))}
      </Table>
    </section>
  );
}
