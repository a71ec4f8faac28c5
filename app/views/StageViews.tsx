import { Button, setOrDrop, useAddress } from "../ui";

/** The views of one stage, the chosen one in the address; the first is shown where it names none. */
export function StageViews<View extends string>({ views, shown }: { views: Record<View, string>; shown: View }) {
  const [, setParameters] = useAddress();
  const names = Object.keys(views) as View[];
  const open = (next: View) =>
    setParameters((params) => {
      // A search belongs to the view that began it.
      params.delete("search");
      setOrDrop(params, "view", next === names[0] ? null : next);
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
