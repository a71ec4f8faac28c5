import { linkEnds, type Site, type Subscriber } from "#core/plan";
import { StateStroke } from "../ui";
import { useDesk } from "../desk/DeskContext";

/** The links that end at a place. */
export function LinksHere({ place }: { place: Site | Subscriber }) {
  const { world, summaries, select } = useDesk();
  const here = [...world.links.values()].filter((link) => {
    const { a, b } = linkEnds(world, link);
    return a.place === place || b.place === place;
  });
  if (here.length === 0) return null;
  return (
    <section className="px-3 py-2">
      <h3 className="mb-1 text-[13px] font-semibold">Links here</h3>
      <ul>
        {here.map((link) => {
          const { a, b } = linkEnds(world, link);
          const other = a.place === place ? b : a;
          return (
            <li key={link.id}>
              <button
                type="button"
                onClick={() => select({ kind: "link", id: link.id })}
                className="flex w-full items-center gap-2 py-0.5 text-left text-[13px] hover:text-clay"
              >
                <StateStroke state={summaries.get(link.id)?.state ?? "unknown"} />
                {other.placeName}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
