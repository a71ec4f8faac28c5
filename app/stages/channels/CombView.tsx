import type { Hurt } from "#core/channels";
import { groupOn } from "#core/propose";
import { useMemo, useState } from "react";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { figure, SelectField } from "../../ui";
import { Comb } from "./Comb";
import { combBands, nearestOnMast, type CombBand, type CombRow } from "./groups";
import { RateChanges } from "./RateChanges";

/** The comb of one band, and whose rates change while a block is moved. */
export function CombView() {
  const { world, rested, data, draft, selection, select, rates } = useDesk();
  const asRested = useMemo(() => combBands(rested), [rested]);
  const bands = useMemo(() => (world === rested ? asRested : combBands(world, asRested)), [world, rested, asRested]);
  const [chosen, setChosen] = useState(0);
  const most = bands.reduce((best, band, i) => (band.rows.length > bands[best]!.rows.length ? i : best), 0);
  const band = bands[chosen === 0 ? most : chosen - 1] ?? bands[most];
  const hurts = useView<Hurt>(data.world.plan.id, draft.patches, bands.length > 0 ? { kind: "hurts" } : null);
  const peopleLost = useMemo(() => {
    const lost = new Map<string, number>();
    for (const { victim, peopleLost: people } of hurts.rows ?? []) lost.set(victim, (lost.get(victim) ?? 0) + people);
    return lost;
  }, [hurts.rows]);
  const { gain, lose } = rates;
  if (!band)
    return (
      <p className="p-8 text-center text-sm text-quiet">
        Nothing is on the air yet: link a customer to a sector, or two sites by a bridge.
      </p>
    );
  const chosenRow = selection?.kind === "radio" ? band.rows.find(({ radioId }) => radioId === selection.id) : undefined;
  return (
    <div className="h-full overflow-y-auto p-3 text-[13px]">
      <div className="flex flex-wrap items-end gap-3">
        {bands.length > 1 && (
          <SelectField
            label="Band"
            value={String(bands.indexOf(band) + 1)}
            onChange={(event) => setChosen(Number(event.target.value))}
          >
            {bands.map(({ name, rows }, i) => (
              <option key={name} value={i + 1}>
                {name} – {rows.length}
              </option>
            ))}
          </SelectField>
        )}
        <p className="pb-1 text-xs text-quiet">
          Tinted: what rules and kit leave open, striped where radar has to be avoided, dotted where a licence is
          needed. Bars: the strongest that scans heard the radio’s way, vertical from below, horizontal from above.
          Dashed boxes: channels of the same mast. A struck block loses somebody’s rate to another of the plan. Drag, or
          nudge with the arrows (Shift: a whole width).
        </p>
      </div>
      <div className="mt-2 overflow-x-auto">
        <div className="min-w-[40rem]">
          <Comb
            world={world}
            band={band}
            chosenId={chosenRow?.radioId ?? null}
            peopleLost={peopleLost}
            onMove={({ radioId, widthMHz }, frequencyMHz) => draft.put(groupOn(world, radioId, frequencyMHz, widthMHz))}
            onChoose={(id) => select({ kind: "radio", id })}
          />
        </div>
      </div>
      {chosenRow && <OnMast band={band} row={chosenRow} />}
      {draft.patches.length > 0 && (
        <section aria-label="What the change does to rates" data-rates={gain.length + lose.length}>
          {gain.length + lose.length === 0 && <p className="mt-2 text-quiet">Nobody’s rate changes.</p>}
          <RateChanges world={world} title="Lose rate" changes={lose} />
          <RateChanges world={world} title="Gain rate" changes={gain} />
        </section>
      )}
    </div>
  );
}

/** How far the chosen channel stands from its neighbour on the same mast. */
function OnMast({ band, row }: { band: CombBand; row: CombRow }) {
  const nearest = nearestOnMast(band, row);
  if (!nearest) return null;
  const { other, apartMHz } = nearest;
  const isTimed = row.timingGroup !== "" && row.timingGroup === other.timingGroup;
  return (
    <p className="mt-2" data-apart={apartMHz}>
      {row.name}:{" "}
      {apartMHz >= 0
        ? `${figure(apartMHz, 0)} MHz from the edge of ${other.name} on the same mast`
        : `overlaps ${other.name} on the same mast`}
      {isTimed
        ? "; timed together, both send and listen at once"
        : "; not timed together, each may send while the other listens"}
      .
    </p>
  );
}
