import { INVITATION_DAYS } from "#wire";

/** A link that was just made. It is shown this once: what is kept of it opens nothing. */
export function InvitationLink({ path }: { path: string }) {
  return (
    <p role="status" className="rounded border border-clay bg-panel p-2 text-sm">
      Send this link to whoever is meant, by a way that nobody else reads. It works once, within {INVITATION_DAYS} days,
      and is not shown again:
      <code className="figures mt-1 block break-all select-all" data-invitation>
        {path}
      </code>
    </p>
  );
}
