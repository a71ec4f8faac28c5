import { growthOver, type SectorLoad } from "#core/capacity";
import type { Remedy } from "#core/findings";
import { useState } from "react";
import { Asked } from "../../ask/Asked";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { NumberField } from "../../ui";
import { Ways } from "./Ways";
import { fullWhen, percent } from "./words";

/** When a sector has to be split, and how: tried on every customer with the demand of that day. */
export function SplitPanel({ load }: { load: SectorLoad }) {
  const { world, data, draft } = useDesk();
  const [years, setYears] = useState(2);
  const { growthPercent } = world.plan;
  const now = Math.max(load.down, load.up);
  const ahead = growthPercent > 0 ? years : 0;
  const then = now * growthOver(ahead, growthPercent);
  const isNeeded = then > 1 && load.customers.length > 1;
  const view = useView<Remedy>(
    data.world.plan.id,
    draft.patches,
    isNeeded ? { kind: "splits", radioId: load.radioId, years: ahead } : null,
  );
  return (
    <section className="mt-3" aria-label="When to split">
      <h4 className="font-semibold">When to split</h4>
      {growthPercent > 0 ? (
        <div className="flex items-end gap-3">
          <div className="w-28">
            <NumberField
              label="Ready for"
              unit="years"
              value={years}
              step={1}
              min={0}
              max={30}
              decimals={0}
              onChange={setYears}
            />
          </div>
          <p className="pb-1">
            {fullWhen(now, growthPercent)}; {percent(then)} by then.
          </p>
        </div>
      ) : (
        <p className="text-quiet">No growth of demand is stated: under Settings, say how many percent a year.</p>
      )}
      {!isNeeded ? (
        <p className="text-quiet">
          {then > 1
            ? "One customer alone fills it: see what would make him faster."
            : "There is time enough for all: nothing to split yet."}
        </p>
      ) : (
        <Asked
          view={view}
          waiting="Trying two, three and four sectors on every channel and width…"
          none="Nothing that was tried gives all of them time enough: a second site is the way out (under Sectors, Build looks for one), or an oversubscription, where they never all ask at once."
        >
          {(ways) => <Ways label="Ways to split" ways={ways} onTake={(patches) => draft.put([...patches])} />}
        </Asked>
      )}
    </section>
  );
}
