import { Link } from "react-router";
import { buttonClass } from "../../ui";
import { useWatch } from "./MonitoringContext";

/** What to do first, while nothing has been looked at. */
export function NothingYet({ failed }: { failed: string | null }) {
  const { kept, job, ask } = useWatch();
  if (failed)
    return (
      <p role="alert" className="p-6 text-sm">
        {failed}
      </p>
    );
  if (!kept) return <p className="p-6 text-sm text-quiet">Reading…</p>;
  if (job?.state === "running")
    return <p className="p-6 text-sm text-quiet">The first look is under way; it stands here when it is done.</p>;
  return (
    <div className="space-y-3 p-8 text-center text-sm">
      <p className="text-quiet">
        {kept.settings.source === "none"
          ? "Nothing is watched yet. Real devices send what they measure, or a simulated network stands for them."
          : "Nothing has been looked at yet."}
      </p>
      {kept.settings.source === "none" ? (
        <Link to="?view=sources" className={buttonClass("primary")}>
          Choose where the figures come from
        </Link>
      ) : (
        <button type="button" className={buttonClass("primary")} onClick={() => void ask({ intent: "look" })}>
          Look now
        </button>
      )}
    </div>
  );
}
