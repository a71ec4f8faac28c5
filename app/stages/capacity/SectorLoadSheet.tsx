import { frameAdvice, loadWith, type CustomerAirtime, type SectorLoad } from "#core/capacity";
import type { Mend } from "#core/findings";
import { removalOf, setPatch, type Link, type Patch } from "#core/plan";
import { counted } from "#core/words";
import { useMemo } from "react";
import { Asked } from "../../ask/Asked";
import { useView } from "../../ask/useView";
import { useDesk } from "../../desk/DeskContext";
import { placeNameOf } from "../../desk/names";
import { Button, euros, figure, Table } from "../../ui";
import { SplitPanel } from "./SplitPanel";
import { TimeBar } from "./TimeBar";
import { Ways } from "./Ways";
import { percent } from "./words";

const NUMBER = "figures text-right whitespace-nowrap";

/** One sector's time: who takes it, what the slow ones could do about it, how the frame is best shared, when to split. */
export function SectorLoadSheet({
  load,
  bySector,
}: {
  load: SectorLoad;
  bySector: ReadonlyMap<string, readonly Link[]>;
}) {
  const { world, selection, select } = useDesk();
  const nameOf = (subscriberId: string) => world.subscribers.get(subscriberId)?.name ?? "";
  const chosen =
    load.customers.find(({ linkId }) => selection?.kind === "link" && linkId === selection.id) ??
    load.customers.find(({ isSlow }) => isSlow) ??
    null;
  const choose = (linkId: string) => select({ kind: "link", id: linkId });
  const whole = Math.max(1, load.down, load.up);
  const bars = { whole, customers: load.customers, chosenLinkId: chosen?.linkId ?? null, nameOf, onChoose: choose };
  return (
    <section className="mt-3" aria-label={`Time of ${world.radios.get(load.radioId)!.name}`}>
      <h3 className="font-semibold">
        {world.radios.get(load.radioId)!.name}{" "}
        <span className="font-normal text-quiet">{placeNameOf(world, load.radioId)}</span>
      </h3>
      {load.customers.length === 0 ? (
        <p className="text-quiet">
          {load.unreached > 0
            ? `None of its ${load.unreached} customers gets anything: see Paths.`
            : "Nobody is linked to it yet."}
        </p>
      ) : (
        <>
          <TimeBar way="down" load={load.down} {...bars} />
          <TimeBar way="up" load={load.up} {...bars} />
          <p className="text-xs text-quiet">
            Up to the mark is all the time there is; each piece is one customer
            {load.customers.some(({ isSlow }) => isSlow) ? ", the slow ones stand out" : ""}.
          </p>
          {load.unreached > 0 && (
            <p className="text-xs text-tight">{load.unreached} more get nothing and are not counted: see Paths.</p>
          )}
          <div className="mt-3 grid gap-4 lg:grid-cols-2">
            <CustomerTimes load={load} chosen={chosen} nameOf={nameOf} onChoose={choose} />
            <div>
              {chosen && (
                <MendsPanel customer={chosen} load={load} name={nameOf(chosen.subscriberId)} bySector={bySector} />
              )}
              <FramePanel radioId={load.radioId} bySector={bySector} />
              <SplitPanel load={load} />
            </div>
          </div>
        </>
      )}
    </section>
  );
}

const MOST_CUSTOMERS = 60;

function CustomerTimes({
  load: { customers, busier },
  chosen,
  nameOf,
  onChoose,
}: {
  load: SectorLoad;
  chosen: CustomerAirtime | null;
  nameOf: (subscriberId: string) => string;
  onChoose: (linkId: string) => void;
}) {
  return (
    <div className="max-h-96 overflow-auto" tabIndex={0} role="region" aria-label="Customers by time">
      <Table
        caption="Customers by time, most first"
        columns={[
          { name: "Customer" },
          { name: "Asks for", isNumber: true },
          { name: "Gets alone", isNumber: true },
          { name: busier === "down" ? "Time toward" : "Time from", isNumber: true },
          { name: "Of all", isNumber: true },
        ]}
      >
        {customers.slice(0, MOST_CUSTOMERS).map((one) => (
          <tr key={one.linkId} className={one === chosen ? "bg-panel font-semibold" : ""}>
            <td>
              <button type="button" className="text-left text-clay underline" onClick={() => onChoose(one.linkId)}>
                {nameOf(one.subscriberId)}
              </button>
              {one.isSlow && <span className="ml-1 text-xs text-tight">slow</span>}
            </td>
            <td className={NUMBER}>
              {figure(one.demandDownMbps, 0)}/{figure(one.demandUpMbps, 0)}
            </td>
            <td className={NUMBER}>
              {figure(one.downMbps, 0)}/{figure(one.upMbps, 0)}
            </td>
            <td className={NUMBER}>{percent(one[busier])}</td>
            <td className={NUMBER}>{percent(one.ofAll)}</td>
          </tr>
        ))}
      </Table>
      {customers.length > MOST_CUSTOMERS && (
        <p className="text-xs text-quiet">
          The {MOST_CUSTOMERS} who take most of {customers.length}.
        </p>
      )}
      <p className="text-xs text-quiet">Mbit/s toward him / from him.</p>
    </div>
  );
}

const MOST_MENDS = 5;

/** What would make one customer faster, and how much of the sector's time that would free. */
function MendsPanel({
  customer,
  load,
  name,
  bySector,
}: {
  customer: CustomerAirtime;
  load: SectorLoad;
  name: string;
  bySector: ReadonlyMap<string, readonly Link[]>;
}) {
  const { world, data, draft, summaries, select } = useDesk();
  const view = useView<Mend>(data.world.plan.id, draft.patches, { kind: "mends", linkId: customer.linkId });
  const link = world.links.get(customer.linkId)!;
  const loadOf = (radioId: string, mend: Mend | null) =>
    loadWith(world, bySector.get(radioId) ?? [], summaries, link, mend);
  const now = Math.max(load.down, load.up);
  const effectOf = (mend: Mend) => {
    const isHere = mend.sectorId === load.radioId;
    const { name: there = "" } = world.radios.get(mend.sectorId) ?? {};
    return [
      `${figure(mend.downMbps, 0)}/${figure(mend.upMbps, 0)} Mbit/s`,
      `this sector ${percent(now)} → ${percent(loadOf(load.radioId, isHere ? mend : null))}`,
      ...(isHere
        ? []
        : [`${there} at ${placeNameOf(world, mend.sectorId)} then ${percent(loadOf(mend.sectorId, mend))}`]),
      ...(mend.costEur === 0 ? [] : [`${mend.costEur > 0 ? "+" : "−"}${euros(Math.abs(mend.costEur))}`]),
      ...(mend.isServed ? [] : ["still not served as asked"]),
    ].join("; ");
  };
  const take = (patches: readonly Patch[]) => {
    draft.put([...patches]);
    select({ kind: "radio", id: load.radioId });
  };
  return (
    <section aria-label={`Faster for ${name}`}>
      <h4 className="font-semibold">
        {customer.isSlow ? `${name} takes ${percent(customer.ofAll)} of all time` : `What would make ${name} faster`}
      </h4>
      <Asked
        view={view}
        waiting="Trying antennas, heights and other sectors…"
        none="Nothing in the library makes this link faster as it stands."
      >
        {(mends) => (
          <Ways
            label="Mends"
            ways={mends.slice(0, MOST_MENDS).map((mend) => ({ ...mend, effect: effectOf(mend) }))}
            onTake={take}
          />
        )}
      </Asked>
      <Ways
        label="Without this customer"
        ways={[
          {
            label: `Off: ${name} gets nothing`,
            effect: `this sector ${percent(now)} → ${percent(loadOf(load.radioId, null))}; ${counted(customer.people, "person", "people")} without service`,
            patches: removalOf(world, [{ kind: "links", id: link.id }]).patches,
          },
        ]}
        onTake={take}
      />
    </section>
  );
}

/** How the frame is shared between the directions, and what would leave least to wait for. */
function FramePanel({ radioId, bySector }: { radioId: string; bySector: ReadonlyMap<string, readonly Link[]> }) {
  const { world, summaries, draft } = useDesk();
  const advice = useMemo(() => frameAdvice(world, radioId, summaries, bySector), [world, radioId, summaries, bySector]);
  if (!advice)
    return (
      <p className="mt-3 text-xs text-quiet">Each direction has a frequency of its own: there is no frame to share.</p>
    );
  const { nowShare, downShare, loadNow, loadThen, carrierIds } = advice;
  const others = carrierIds.length - 1;
  const isBetter = Math.abs(nowShare - downShare) > 1e-9;
  return (
    <section className="mt-3" aria-label="Share of the frame">
      <h4 className="font-semibold">Share of the frame: {percent(nowShare)} toward customers</h4>
      {isBetter ? (
        <p className="flex items-start gap-2">
          <span className="flex-1">
            {percent(downShare)} would leave least to wait for: {percent(loadNow)} → {percent(loadThen)} in the fuller
            direction
            {others > 0 ? `, with the ${others} others of its timing group` : ""}.
          </span>
          <Button
            className="px-1.5 py-0 text-xs"
            aria-label={`Share the frame ${percent(downShare)} toward customers, in hand`}
            onClick={() => draft.put(carrierIds.map((id) => setPatch("carriers", id, { downShare })))}
          >
            Take
          </Button>
        </p>
      ) : (
        <p className="text-quiet">No other share leaves less to wait for.</p>
      )}
    </section>
  );
}
