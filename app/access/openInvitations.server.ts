import { listInvitations, type Queries } from "#store";
import { formatDistanceToNow } from "date-fns";
import type { OpenInvitation } from "./Invitations";
import { ROLE_WORDS } from "./roleWords";

/** Invitations to a plan that nobody has taken, or with null those to this Tejado, in words. */
export async function openInvitations(db: Queries, planId: string | null): Promise<OpenInvitation[]> {
  return (await listInvitations(db, planId)).map(({ id, role, isKeeper, madeBy, madeAt }) => ({
    ...{ id, madeBy, madeAgo: formatDistanceToNow(madeAt) },
    gives: isKeeper ? "keeper" : role === null ? "an account" : ROLE_WORDS[role].name,
  }));
}
