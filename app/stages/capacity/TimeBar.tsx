import type { CustomerAirtime } from "#core/capacity";
import { percent } from "./words";

/** One direction of a sector's time, a piece for each customer, on a scale that ends at `whole`; what is beyond the mark is more than there is. */
export function TimeBar({
  way,
  load,
  whole,
  customers,
  chosenLinkId,
  nameOf,
  onChoose,
}: {
  way: "down" | "up";
  load: number;
  whole: number;
  customers: readonly CustomerAirtime[];
  chosenLinkId: string | null;
  nameOf: (subscriberId: string) => string;
  onChoose: (linkId: string) => void;
}) {
  const all = customers.reduce((sum, one) => sum + one[way], 0);
  const width = (one: CustomerAirtime) => (all > 0 ? (100 * one[way] * (load / all)) / whole : 0);
  return (
    <div className="mt-1 grid grid-cols-[4.5rem_1fr_4rem] items-center gap-2">
      <span className="text-xs text-quiet">{way === "down" ? "Toward them" : "From them"}</span>
      <div
        className="relative h-6 bg-ground"
        role="group"
        aria-label={way === "down" ? "Time toward them" : "Time from them"}
      >
        <div className="flex h-full">
          {customers.map((one) => (
            <button
              key={one.linkId}
              type="button"
              tabIndex={-1}
              aria-hidden
              title={`${nameOf(one.subscriberId)}: ${percent(one[way])}`}
              onClick={() => onChoose(one.linkId)}
              style={{ width: `${width(one)}%` }}
              className={`h-full border-r border-panel ${one.linkId === chosenLinkId ? "bg-clay" : one.isSlow ? "bg-tight" : "bg-quiet/60"}`}
            />
          ))}
        </div>
        <div
          className="absolute inset-y-[-3px] border-l-2 border-ink"
          style={{ left: `${100 / whole}%` }}
          aria-hidden
        />
      </div>
      <span className={`figures text-right text-[13px] ${load > 1 ? "font-semibold text-blocked" : ""}`}>
        {percent(load)}
      </span>
    </div>
  );
}
