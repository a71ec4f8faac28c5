import { INVITATION_DAYS } from "#wire";
import { toast } from "sonner";
import { Button } from "../ui";

/** A link that was just made. It is shown this once: what is kept of it opens nothing. */
export function InvitationLink({ link }: { link: string }) {
  return (
    <p role="status" className="rounded border border-clay bg-panel p-2 text-sm">
      Send this link to whoever is meant, by a way that nobody else reads. It works once, within {INVITATION_DAYS} days,
      and is not shown again:
      <code className="figures mt-1 block break-all select-all" data-invitation>
        {link}
      </code>
      <Button
        className="mt-1 text-xs"
        onClick={() => void navigator.clipboard.writeText(link).then(() => toast("The link is copied."))}
      >
        Copy
      </Button>
    </p>
  );
}
