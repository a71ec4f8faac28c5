import { useSearchParams } from "react-router";
import { Button } from "../ui";

/** The views of one stage, the chosen one in the address; the first is shown where it names none. */
export function StageViews<View extends string>({ views, shown }: { views: Record<View, string>; shown: View }) {
  const [, setParameters] = useSearchParams();
  const names = Object.keys(views) as View[];
  const open = (next: View) =>
    setParameters((before) => {
      const after = new URLSearchParams(before);
      // A search belongs to the view that began it.
      after.delete("search");
      if (next === names[0]) after.delete("view");
      else after.set("view", next);
      return after;
    });
  return (
    <div role="group" aria-label="View" className="flex flex-wrap gap-1 self-end pb-0.5">
      {names.map((one) => (
        <Button
          key={one}
          aria-pressed={shown === one}
          className={`px-2 text-xs ${shown === one ? "border-clay text-clay" : ""}`}
          onClick={() => open(one)}
        >
          {views[one]}
        </Button>
      ))}
    </div>
  );
}
