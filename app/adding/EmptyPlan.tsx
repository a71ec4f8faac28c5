import { Link } from "react-router";
import { useDesk } from "../desk/DeskContext";
import { Button, buttonClass } from "../ui";
import { useAdding } from "./AddingContext";

/** What a plan with nothing in it offers first. */
export function EmptyPlan() {
  const { world, data } = useDesk();
  const { start } = useAdding();
  const base = `/plans/${world.plan.id}`;
  return (
    <section aria-label="An empty plan" className="space-y-3 p-3 text-sm">
      <p className="font-semibold">The plan is empty.</p>
      {!data.terrain && (
        <p className="text-xs text-quiet">
          Paths are answered over the ground: bring terrain under Import when you have it. Places can be put before.
        </p>
      )}
      <div className="flex flex-wrap gap-1.5">
        <Button look="primary" onClick={() => start("site")}>
          Add a site
        </Button>
        <Button onClick={() => start("subscriber")}>Add a customer</Button>
        <Link to={`${base}/import`} className={buttonClass()}>
          Import files
        </Link>
      </div>
      <p className="text-xs text-quiet">
        To look around first, lay out{" "}
        <Link to="/" className="text-clay underline">
          the demo
        </Link>{" "}
        among all plans.
      </p>
    </section>
  );
}
